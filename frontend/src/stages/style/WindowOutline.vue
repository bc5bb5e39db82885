<script setup lang="ts">
/** The outline of a caption's window on the picture, with its corners and the middles of its sides to be dragged. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

import { middleOf } from '@/stages/style/outlines'
import { useLooks } from '@/stages/style/looksStore'
import type { useWindow, WindowGrip } from '@/stages/style/useWindow'

const props = defineProps<{
  window: ReturnType<typeof useWindow>
  /** So many pixels of the screen, in those of the picture. */
  px: (pixels: number) => number
}>()
const emit = defineEmits<{ take: [event: PointerEvent, grip: WindowGrip] }>()

const { t } = useI18n()
const looks = useLooks()
const width = computed(() => looks.size.width)
const height = computed(() => looks.size.height)
const corners = computed(() => props.window.corners.value ?? [])
const path = computed(() => {
  const at = (x: number, y: number) => `${x * width.value} ${y * height.value}`
  const sides = corners.value.map(({ bend }, index) => {
    const next = corners.value[(index + 1) % corners.value.length]!
    return bend ? `Q${at(bend.x, bend.y)} ${at(next.x, next.y)}` : `L${at(next.x, next.y)}`
  })
  const first = corners.value[0]
  return first ? `M${at(first.x, first.y)}${sides.join('')}Z` : ''
})
const middles = computed(() => corners.value.map((_, index) => middleOf(corners.value, index)))
</script>

<template>
  <g data-window>
    <path class="casing" :d="path" />
    <path class="outline" :d="path" @pointerdown.stop="emit('take', $event, { part: 'all', index: 0 })"><title>{{ t('style.window.all') }}</title></path>
    <circle
      v-for="(middle, index) in middles"
      :key="`m${index}`"
      class="middle"
      :cx="middle.x * width"
      :cy="middle.y * height"
      :r="px(4.5)"
      data-window-side
      @pointerdown.stop="emit('take', $event, { part: 'side', index })"
      @dblclick.stop="window.addCorner(index)"
    >
      <title>{{ t('style.window.side') }}</title>
    </circle>
    <rect
      v-for="(corner, index) in corners"
      :key="`c${index}`"
      class="corner"
      :x="corner.x * width - px(5)"
      :y="corner.y * height - px(5)"
      :width="px(10)"
      :height="px(10)"
      data-window-corner
      @pointerdown.stop="emit('take', $event, { part: 'corner', index })"
      @dblclick.stop="window.removeCorner(index)"
    >
      <title>{{ t('style.window.corner') }}</title>
    </rect>
  </g>
</template>

<style scoped>
* {
  vector-effect: non-scaling-stroke;
}
.casing {
  fill: none;
  stroke: #fffdf8;
  stroke-width: 3;
}
.outline {
  fill: transparent;
  stroke: #3f6b78;
  stroke-width: 1.5;
  stroke-dasharray: 7 3;
  cursor: move;
}
.corner,
.middle {
  fill: #fffdf8;
  stroke: #3f6b78;
  stroke-width: 1.5;
  cursor: crosshair;
}
.middle {
  fill: #cfdddd;
}
</style>
