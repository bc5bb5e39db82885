<script setup lang="ts">
/** Which page of Style is seen. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRoute } from 'vue-router'

import ChoiceRow from '@/kit/ChoiceRow.vue'
import { run } from '@/kit/commands/commands'

const { t } = useI18n()
const route = useRoute()
const VIEWS = ['picture', 'short'] as const
const view = computed({
  get: () => (route.query.view === 'short' ? 'short' : 'picture') as (typeof VIEWS)[number],
  set: (now) => {
    if (now !== view.value) run('style-view')
  },
})
const views = computed(() => VIEWS.map((value) => ({ value, title: t(`style.view.${value}`) })))
</script>

<template>
  <header><ChoiceRow v-model="view" :label="t('style.views')" :options="views" /></header>
</template>

<style scoped>
header {
  padding: 6px 10px;
  background: var(--paper);
  border-bottom: 1px solid var(--line);
}
</style>
