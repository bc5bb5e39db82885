<script setup lang="ts">
/** The whole film in one narrow strip: captions, findings, the part in view, the playhead. */
import { useElementSize, watchThrottled } from '@vueuse/core'
import { computed, ref, shallowRef, watchEffect } from 'vue'
import { useI18n } from 'vue-i18n'

import { usePlayer } from '@/picture/playerStore'
import { useProject } from '@/session/projectStore'
import { openFindings } from '@/session/captions'
import { useTrack } from '@/session/tracksStore'
import { pageColours } from '@/score/drawing'
import type { Geometry } from '@/score/geometry'

const props = defineProps<{ top: number; bottom: number; geometry: Geometry }>()
const emit = defineEmits<{ show: [ms: number] }>()

const { t } = useI18n()
const project = useProject()
const track = useTrack()
const player = usePlayer()
const canvas = ref<HTMLCanvasElement | null>(null)
const { height } = useElementSize(canvas)

/** Thousands of captions are not drawn anew at each step of a drag. */
const REDRAWN_MS = 300
const captions = shallowRef(track.captions)
watchThrottled(() => track.captions, (now) => (captions.value = now), { throttle: REDRAWN_MS })

const WIDTH = 18
const length = computed(() => Math.max(project.durationMs, 1))
const seen = computed(() => {
  const from = props.geometry.ms(props.top)
  const to = props.geometry.ms(props.bottom)
  return {
    top: `${Math.min((from / length.value) * 100, 100)}%`,
    height: `${Math.max(Math.min(((to - from) / length.value) * 100, 100), 0.6)}%`,
  }
})

watchEffect(
  () => {
    const element = canvas.value
    if (!element || !height.value) return
    const ratio = window.devicePixelRatio || 1
    element.width = WIDTH * ratio
    element.height = height.value * ratio
    const context = element.getContext('2d')!
    context.scale(ratio, ratio)
    const colours = pageColours.value
    const place = (ms: number) => (ms / length.value) * height.value
    context.fillStyle = colours.tide
    context.globalAlpha = 0.55
    for (const caption of captions.value) {
      context.fillRect(4, place(caption.in_ms), 8, Math.max(place(caption.out_ms - caption.in_ms) - 0.6, 0.5))
    }
    context.globalAlpha = 1
    context.fillStyle = colours.heather
    for (const caption of captions.value) {
      if (openFindings(caption).length) context.fillRect(13, place(caption.in_ms), 4, 2.5)
    }
  },
  { flush: 'post' },
)

function show(event: PointerEvent) {
  const rect = canvas.value!.getBoundingClientRect()
  emit('show', ((event.clientY - rect.top) / rect.height) * length.value)
}
</script>

<template>
  <div class="strip" :title="t('score.strip')" @pointerdown="show">
    <canvas ref="canvas" role="presentation" />
    <i class="seen" :style="seen" />
    <i class="now" :style="{ top: `${(player.timeMs / length) * 100}%` }" />
  </div>
</template>

<style scoped>
.strip {
  position: relative;
  width: 18px;
  flex: none;
  background: var(--sand-deep);
  border-right: 1px solid var(--line);
}
canvas {
  width: 18px;
  height: 100%;
  display: block;
}
.seen {
  position: absolute;
  left: 0;
  right: 0;
  background: color-mix(in srgb, var(--russet) 14%, transparent);
  border-block: 1px solid var(--russet);
  pointer-events: none;
}
.now {
  position: absolute;
  left: 0;
  right: 0;
  border-top: 2px solid var(--russet);
  pointer-events: none;
}
</style>
