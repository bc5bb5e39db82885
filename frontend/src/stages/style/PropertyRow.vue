<script setup lang="ts">
/** A line of the panel: what it is called, its fields, and a mark that says which level sets it and gives it back. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

import LevelMark from '@/stages/style/LevelMark.vue'
import { useLooks } from '@/stages/style/looksStore'
import type { Property } from '@/stages/style/properties'
import { HEIGHT, useProperty } from '@/stages/style/useProperty'

const props = defineProps<{ label: string; properties: readonly Property[] }>()

const { t } = useI18n()
const looks = useLooks()
const each = props.properties.map((property) => useProperty(property))

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
      <LevelMark :level="level" />
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
@media (max-width: 1150px) {
  .row {
    grid-template-columns: 74px minmax(0, 1fr) 22px;
    gap: 3px;
  }
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
