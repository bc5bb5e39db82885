<script setup lang="ts">
/** A line of the panel: what it is called, its fields, and a mark that says which level sets it and gives it back. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

import { useLooks } from '@/stages/style/looksStore'
import type { Property } from '@/stages/style/properties'
import { type Level, useProperty } from '@/stages/style/useProperty'

const props = defineProps<{ label: string; properties: readonly Property[] }>()

const { t } = useI18n()
const looks = useLooks()
const each = props.properties.map((property) => useProperty(property))

const HEIGHT: readonly Level[] = ['shipped', 'style', 'speaker', 'caption', 'words']
const level = computed(() => each.map((one) => one.level.value).reduce((a, b) => (HEIGHT.indexOf(b) > HEIGHT.indexOf(a) ? b : a)))
const own = computed(() => level.value === looks.destination)
const covered = computed(() => each.some((one) => one.covered.value))
const about = computed(() =>
  [t(`style.level.${level.value}`), own.value ? t('style.giveBack') : '', covered.value ? t('style.covered') : ''].filter(Boolean).join(' · '),
)

function giveBack() {
  const mine = props.properties.filter((_, index) => each[index]!.level.value === looks.destination)
  void looks.settle(Object.fromEntries(mine.map((property) => [property, null])))
}
</script>

<template>
  <div class="row" :data-row="properties[0]">
    <span class="label">{{ label }}</span>
    <span class="fields"><slot /></span>
    <button
      type="button"
      class="level"
      :class="[level, { covered }]"
      :disabled="!own"
      :title="about"
      :aria-label="`${label}: ${about}`"
      :data-level="level"
      @click="giveBack"
    >
      <svg viewBox="0 0 10 10" aria-hidden="true">
        <path v-if="level === 'words'" d="M5 0l5 5-5 5-5-5z" />
        <circle v-else-if="level === 'caption'" cx="5" cy="5" r="4" />
        <path v-else-if="level === 'speaker'" d="M5 1a4 4 0 0 1 0 8z M5 1.500a3.500 3.500 0 0 0 0 7" class="half" />
        <rect v-else-if="level === 'style'" x="1" y="3" width="8" height="4" rx="1" />
        <circle v-else cx="5" cy="5" r="3.500" class="open" />
      </svg>
    </button>
  </div>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 92px minmax(0, 1fr) 22px;
  align-items: center;
  gap: 5px;
  min-height: 29px;
}
.label {
  overflow: hidden;
  font-size: 13px;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.fields {
  display: flex;
  align-items: center;
  gap: 4px;
  min-width: 0;
}
.level {
  display: grid;
  place-content: center;
  width: 22px;
  height: 22px;
  border-radius: 4px;
}
.level svg {
  width: 10px;
  height: 10px;
  fill: var(--straw);
  stroke: none;
}
.level.caption svg,
.level.words svg {
  fill: var(--russet);
}
.level.speaker svg {
  fill: var(--tide);
}
.level.shipped svg {
  fill: none;
}
.open,
.half {
  stroke: var(--soft);
  stroke-width: 1;
}
.half {
  stroke: var(--tide);
}
.level:not(:disabled):hover {
  background: var(--russet-wash);
}
.level:disabled {
  cursor: default;
}
.level.covered {
  outline: 1px dashed var(--soft);
  outline-offset: -3px;
}
</style>
