<script setup lang="ts">
/** How the values of a track are spread, with a limit that can be dragged or moved by keys. */
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'

import type { Schemas } from '@/api/client'

const props = defineProps<{
  distribution: Schemas['DistributionView']
  limit: number | null
  breaks: 'above' | 'below'
  step: number
  label: string
  /** With figures under the bars. */
  large?: boolean
}>()
const emit = defineEmits<{ limit: [value: number] }>()

const { t } = useI18n()
const box = ref<HTMLElement | null>(null)

/** What is counted in whole numbers stands in the middle of its bar: the limit is drawn beside it, towards what breaks it. */
const beside = computed(() => (props.distribution.start % 1 === 0 ? 0 : props.breaks === 'above' ? 0.5 : -0.5))
const drawn = computed(() => (props.limit === null ? null : props.limit + beside.value))
const end = computed(() => props.distribution.start + props.distribution.step * props.distribution.counts.length)
const top = computed(() => Math.max(...props.distribution.counts, 1))
const bars = computed(() =>
  props.distribution.counts.map((count, index) => {
    const middle = props.distribution.start + (index + 0.5) * props.distribution.step
    const broken = props.limit !== null && (props.breaks === 'above' ? middle > props.limit : middle < props.limit)
    return { count, broken, height: count ? Math.max((count / top.value) * 100, 4) : 0 }
  }),
)
const at = computed(() =>
  drawn.value === null ? null : Math.min(Math.max((drawn.value - props.distribution.start) / (end.value - props.distribution.start), 0), 1) * 100,
)
const parts = computed(() => (props.large ? [0, 0.25, 0.5, 0.75, 1] : [0, 0.5, 1]))
const ticks = computed(() => parts.value.map((part) => props.distribution.start + part * (end.value - props.distribution.start)))

/** Whole numbers, but where the scale is finer than that; milliseconds in seconds. */
function figure(value: number): string {
  if (props.distribution.measure.endsWith('_ms')) return `${Number((value / 1000).toFixed(1))} s`
  return end.value <= 2 ? value.toFixed(1) : String(Math.round(value))
}

function toValue(event: PointerEvent) {
  const { left, width } = box.value!.getBoundingClientRect()
  const part = Math.min(Math.max((event.clientX - left) / width, 0), 1)
  const value = props.distribution.start + part * (end.value - props.distribution.start)
  move(value - beside.value)
}
function move(value: number) {
  const rounded = Math.round(value / props.step) * props.step
  emit('limit', Math.max(Number(rounded.toFixed(3)), props.step))
}
function grab(event: PointerEvent) {
  if (props.limit === null) return
  box.value!.setPointerCapture(event.pointerId)
  toValue(event)
}
function drag(event: PointerEvent) {
  if (box.value!.hasPointerCapture(event.pointerId)) toValue(event)
}
</script>

<template>
  <div class="chart" :class="{ large }">
    <div ref="box" class="bars" @pointerdown="grab" @pointermove="drag">
      <i v-for="(bar, index) in bars" :key="index" :class="{ broken: bar.broken }" :style="{ height: `${bar.height}%` }" />
      <span
        v-if="at !== null"
        class="limit"
        role="slider"
        tabindex="0"
        :aria-label="t('spec.limitOf', { name: label })"
        :aria-valuenow="limit ?? 0"
        :aria-valuemin="distribution.start"
        :aria-valuemax="end"
        :style="{ left: `${at}%` }"
        @keydown.left.prevent="move(limit! - step)"
        @keydown.right.prevent="move(limit! + step)"
      />
    </div>
    <div class="figures time" aria-hidden="true">
      <span v-for="tick in ticks" :key="tick">{{ figure(tick) }}</span>
    </div>
    <span v-if="large" class="most time" aria-hidden="true">{{ top }}</span>
  </div>
</template>

<style scoped>
.bars {
  position: relative;
  display: flex;
  align-items: flex-end;
  gap: min(1px, 0.2%);
  height: 34px;
  border-bottom: 1px solid var(--line);
  touch-action: none;
  cursor: ew-resize;
}
.large .bars {
  height: 110px;
}
.bars i {
  flex: 1;
  background: var(--tide);
  border-radius: 2px 2px 0 0;
}
.bars i.broken {
  background: var(--heather);
}
.limit {
  position: absolute;
  top: -2px;
  bottom: -4px;
  width: 10px;
  margin-left: -5px;
}
.limit::before {
  content: '';
  position: absolute;
  inset: 0 4px;
  background: var(--ink);
}
.limit::after {
  content: '';
  position: absolute;
  top: -3px;
  left: 1px;
  width: 8px;
  height: 8px;
  border-radius: 4px;
  background: var(--ink);
}
.chart {
  position: relative;
}
.most {
  position: absolute;
  left: 0;
  top: -4px;
  font-size: 11px;
  color: var(--soft);
}
.figures {
  display: flex;
  justify-content: space-between;
  padding-top: 3px;
  font-size: 11px;
  color: var(--soft);
}
</style>
