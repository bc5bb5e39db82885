<script setup lang="ts">
/** Frames a second that are written; null is as many as the film has. */
import { useI18n } from 'vue-i18n'

import type { Schemas } from '@/api/client'
import { framesPerSecond, RATES } from '@/kit/time'
import { useProject } from '@/session/projectStore'

const rate = defineModel<Schemas['FrameRate'] | null>({ required: true })
const { t } = useI18n()
const project = useProject()

/** A thousandth less than whole is of a denominator of 1001, whatever it is rounded to. */
function exact(text: string): Schemas['FrameRate'] {
  const value = Number(text)
  return Number.isInteger(value) ? { numerator: value, denominator: 1 } : { numerator: Math.round(value) * 1000, denominator: 1001 }
}
const choose = (event: Event) => {
  const text = (event.target as HTMLSelectElement).value
  rate.value = text ? exact(text) : null
}
</script>

<template>
  <label class="dial">
    <span>{{ t('packing.dial.rate') }}</span>
    <select :value="rate ? framesPerSecond(rate) : ''" data-dial="rate" @change="choose">
      <option value="">{{ t('packing.asFilm', { rate: framesPerSecond(project.rate) }) }}</option>
      <option v-for="one in RATES" :key="one" :value="one">{{ one }}</option>
    </select>
  </label>
</template>
