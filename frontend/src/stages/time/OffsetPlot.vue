<script setup lang="ts">
/** By how much captions are off, over the film: a step where the offset jumps, a slope where it drifts. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

import { minutes, seconds } from '@/kit/time'
import type { Piece } from '@/stages/time/retimeStore'

const props = defineProps<{ pieces: readonly Piece[]; durationMs: number }>()
const { t } = useI18n()

const WIDTH = 400
const HEIGHT = 92

const runs = computed(() =>
  props.pieces.map((piece) => {
    const from = piece.from_ms
    const to = piece.to_ms ?? Math.max(props.durationMs, from + 1)
    const by = (ms: number) => ms * piece.rate + piece.offset_ms - ms
    return { from, to, first: by(from), last: by(to), absent: piece.absent }
  }),
)
const reach = computed(() => {
  const all = runs.value.flatMap((run) => [run.first, run.last, 0])
  const low = Math.min(...all)
  const high = Math.max(...all)
  const room = Math.max((high - low) * 0.12, 100)
  return [low - room, high + room] as const
})
const end = computed(() => Math.max(props.durationMs, ...runs.value.map((run) => run.to)))
const x = (ms: number) => (ms / end.value) * WIDTH
const y = (ms: number) => HEIGHT - ((ms - reach.value[0]) / (reach.value[1] - reach.value[0])) * HEIGHT
</script>

<template>
  <figure class="plot">
    <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" preserveAspectRatio="none" role="img" :aria-label="t('timing.plot')">
      <line class="zero" x1="0" :x2="WIDTH" :y1="y(0)" :y2="y(0)" />
      <line v-for="(run, i) in runs.slice(1)" :key="`b${i}`" class="break" :x1="x(run.from)" :x2="x(run.from)" y1="0" :y2="HEIGHT" />
      <line v-for="(run, i) in runs" :key="i" class="run" :class="{ absent: run.absent }" :x1="x(run.from)" :y1="y(run.first)" :x2="x(run.to)" :y2="y(run.last)" />
    </svg>
    <figcaption class="time">
      <span>0:00</span>
      <span>{{ t('timing.plotRange', { low: seconds(Math.round(reach[0])), high: seconds(Math.round(reach[1])) }) }}</span>
      <span>{{ minutes(end) }}</span>
    </figcaption>
  </figure>
</template>

<style scoped>
.run.absent {
  opacity: 0;
}
.plot {
  margin: 0;
}
svg {
  display: block;
  width: 100%;
  height: 92px;
  background: var(--sand);
  border: 1px solid var(--line);
  border-radius: 6px;
}
.zero {
  stroke: var(--soft);
  stroke-width: 1;
  vector-effect: non-scaling-stroke;
}
.break {
  stroke: var(--straw-bright);
  stroke-dasharray: 3 3;
  vector-effect: non-scaling-stroke;
}
.run {
  stroke: var(--tide);
  stroke-width: 3;
  stroke-linecap: round;
  vector-effect: non-scaling-stroke;
}
figcaption {
  display: flex;
  justify-content: space-between;
  font-size: 11px;
  color: var(--soft);
}
</style>
