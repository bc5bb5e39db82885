<script setup lang="ts">
/** What is followed in the picture: the box around it, and the way its middle goes. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

import { cornersOf, pointAt } from '@/stages/style/frames'
import { useLooks } from '@/stages/style/looksStore'
import { DOUBTFUL, frameOfBox } from '@/stages/style/paths'
import { useSticking } from '@/stages/style/stickingStore'
import type { MarkGrip } from '@/stages/style/useMarkHand'

const props = defineProps<{
  /** So many pixels of the screen, in those of the picture. */
  px: (pixels: number) => number
}>()
const emit = defineEmits<{ take: [event: PointerEvent, grip: MarkGrip] }>()

const { t } = useI18n()
const looks = useLooks()
const sticking = useSticking()

const frame = computed(() => (sticking.box ? frameOfBox(sticking.box, looks.size) : null))
const corners = computed(() => (frame.value ? cornersOf(frame.value) : []))
const points = computed(() => corners.value.map(({ x, y }) => `${x.toFixed(2)},${y.toFixed(2)}`).join(' '))
const stalk = computed(() => frame.value && [pointAt(frame.value, 0.5, 1), pointAt(frame.value, 0.5, 1, { x: 0, y: props.px(22) })])
const isDoubtful = computed(() => !sticking.markHere && sticking.sureHere !== undefined && sticking.sureHere < DOUBTFUL)

/** Its way, in pieces of which each is sure or is not. */
const way = computed(() => {
  const { path } = sticking
  if (!path) return { sure: '', unsure: '' }
  const at = (n: number) => `${(path.x[n]! * looks.size.width).toFixed(1)} ${(path.y[n]! * looks.size.height).toFixed(1)}`
  const pieces = path.x.slice(1).map((_, n) => ({ isSure: Math.min(path.sure[n]!, path.sure[n + 1]!) >= DOUBTFUL, d: `M${at(n)}L${at(n + 1)}` }))
  const all = (isSure: boolean) => pieces.filter((piece) => piece.isSure === isSure).map(({ d }) => d).join('')
  return { sure: all(true), unsure: all(false) }
})
</script>

<template>
  <g data-mark-outline>
    <path class="way casing" :d="way.sure + way.unsure" />
    <path class="way sure" :d="way.sure" />
    <path class="way unsure" :d="way.unsure" />
    <template v-if="frame && stalk">
      <polygon class="casing" :points="points" />
      <polygon class="box" :class="{ doubtful: isDoubtful, put: sticking.markHere }" :points="points" data-mark-box @pointerdown.stop="emit('take', $event, 'move')">
        <title>{{ t('style.stick.move') }}</title>
      </polygon>
      <path class="casing" :d="`M${stalk[0]!.x} ${stalk[0]!.y}L${stalk[1]!.x} ${stalk[1]!.y}`" />
      <path class="stalk" :d="`M${stalk[0]!.x} ${stalk[0]!.y}L${stalk[1]!.x} ${stalk[1]!.y}`" />
      <circle class="grip turn" :cx="stalk[1]!.x" :cy="stalk[1]!.y" :r="px(5.5)" data-mark-turn @pointerdown.stop="emit('take', $event, 'turn')">
        <title>{{ t('style.handle.turn') }}</title>
      </circle>
      <rect
        v-for="(corner, index) in corners"
        :key="index"
        class="grip"
        :x="-px(5)"
        :y="-px(5)"
        :width="px(10)"
        :height="px(10)"
        :transform="`translate(${corner.x} ${corner.y}) rotate(${45 + frame.turned})`"
        :data-mark-corner="index"
        @pointerdown.stop="emit('take', $event, index as MarkGrip)"
      >
        <title>{{ t('style.stick.corner') }}</title>
      </rect>
    </template>
  </g>
</template>

<style scoped>
* {
  vector-effect: non-scaling-stroke;
}
.casing {
  fill: none;
  stroke: #fffdf8;
  stroke-width: 4;
  opacity: 0.85;
  pointer-events: none;
}
.way {
  fill: none;
  stroke-linecap: round;
  pointer-events: none;
}
.way.sure {
  stroke: #3f6b78;
  stroke-width: 2;
}
.way.unsure {
  stroke: #a6522b;
  stroke-width: 2;
}
.box {
  fill: rgb(63 107 120 / 10%);
  stroke: #3f6b78;
  stroke-width: 2;
  stroke-dasharray: 2 4;
  stroke-linecap: round;
  cursor: move;
}
.box.put {
  stroke-dasharray: none;
}
.box.doubtful {
  fill: rgb(166 82 43 / 14%);
  stroke: #a6522b;
}
.stalk {
  fill: none;
  stroke: #3f6b78;
  stroke-width: 1.5;
}
.grip {
  fill: #fffdf8;
  stroke: #3f6b78;
  stroke-width: 1.5;
  cursor: nwse-resize;
}
.grip.turn {
  cursor: grab;
}
</style>
