<script setup lang="ts">
/** What Dunlin is, under which licence, and what it is built on. */
import { useEventListener } from '@vueuse/core'
import { useI18n } from 'vue-i18n'
import { useRouter } from 'vue-router'

import notices from '../../../../docs/third-party.md?raw'
import licence from '../../../../LICENSE?raw'
import { partsOf } from '@/stages/about/notices'

const { t } = useI18n()
const router = useRouter()
const parts = partsOf(notices)
useEventListener(window, 'keydown', (event) => event.key === 'Escape' && void router.push({ name: 'projects' }))
</script>

<template>
  <main class="about">
    <v-btn size="small" :to="{ name: 'projects' }" data-back>{{ t('about.back') }}</v-btn>
    <h1>{{ t('about.title') }}</h1>
    <p>{{ t('about.what') }}</p>
    <section v-for="part in parts" :key="part.title">
      <h2>{{ part.title }}</h2>
      <template v-for="(block, n) in part.blocks" :key="n">
        <ul v-if="block.kind === 'points'">
          <li v-for="text in block.texts" :key="text">{{ text }}</li>
        </ul>
        <p v-else>{{ block.texts[0] }}</p>
      </template>
    </section>
    <section>
      <h2>{{ t('about.licence') }}</h2>
      <pre>{{ licence }}</pre>
    </section>
  </main>
</template>

<style scoped>
.about {
  height: 100vh;
  overflow-y: auto;
  padding: 36px max(40px, calc(50vw - 360px)) 60px;
  line-height: 1.5;
}
h1 {
  margin: 18px 0 4px;
  font-size: 26px;
}
h2 {
  margin: 26px 0 6px;
  font-size: 16px;
}
ul {
  padding-left: 18px;
}
li {
  margin-bottom: 6px;
}
pre {
  white-space: pre-wrap;
  font: 13px/1.5 'Atkinson Hyperlegible Mono', monospace;
}
</style>
