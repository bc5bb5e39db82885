<script setup lang="ts" generic="P extends Property">
/** One of a few values of a property. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

import type { Property } from '@/stages/style/properties'
import { useProperty } from '@/stages/style/useProperty'

const props = defineProps<{ property: P; options: readonly { value: string | number | null; title: string }[] }>()

const { t } = useI18n()
const { value, mixed, settable, set } = useProperty(props.property)
const index = computed(() => (mixed.value ? -1 : props.options.findIndex((option) => option.value === (value.value ?? null))))

function choose(event: Event) {
  void set(props.options[Number((event.target as HTMLSelectElement).value)]!.value as never)
}
</script>

<template>
  <select :value="index" :aria-label="t(`style.property.${property}`)" :disabled="!settable" :data-property="property" @change="choose">
    <option v-if="mixed" :value="-1" disabled>{{ t('style.mixed') }}</option>
    <option v-for="(option, n) in options" :key="String(option.value)" :value="n">{{ option.title }}</option>
  </select>
</template>

<style scoped>
select {
  flex: 2;
  min-width: 0;
  padding: 2px 4px;
  font: 13px var(--text-font);
  color: inherit;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 4px;
}
</style>
