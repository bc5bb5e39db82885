<script setup lang="ts">
/** The frame of what stands beside the Score: its name, and a way to put it away. */
import { useI18n } from 'vue-i18n'

import { useCommands } from '@/kit/commands/commands'
import { useTiming } from '@/stages/time/timingStore'

defineProps<{ title: string }>()
const { t } = useI18n()
const timing = useTiming()
useCommands([{ id: 'panel-close', run: () => timing.close() }])
</script>

<template>
  <section class="panel" :aria-label="title">
    <header>
      <h2>{{ title }}</h2>
      <v-btn size="x-small" variant="text" @click="timing.close()">{{ t('timing.close') }}</v-btn>
    </header>
    <slot />
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 10px;
  padding: 10px 16px 16px;
}
header {
  display: flex;
  align-items: center;
  justify-content: space-between;
}
h2 {
  margin: 0;
  font-size: 15px;
  font-weight: 650;
}
</style>
