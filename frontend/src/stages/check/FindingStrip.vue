<script setup lang="ts">
/** The whole film from left to right: captions, and where the findings are. */
import { useElementSize } from '@vueuse/core'
import { computed, ref, watchEffect } from 'vue'

import type { Finding } from '@/api/client'
import { useProject } from '@/session/projectStore'
import { useTrack } from '@/session/tracksStore'
import { pageColours } from '@/score/drawing'

const props = defineProps<{ findings: readonly Finding[]; current: Finding | undefined }>()
const emit = defineEmits<{ show: [ms: number] }>()

const project = useProject()
const track = useTrack()
const canvas = ref<HTMLCanvasElement | null>(null)
const { width } = useElementSize(canvas)
const HEIGHT = 32
const length = computed(() => Math.max(project.durationMs, track.captions.at(-1)?.out_ms ?? 0, 1))

watchEffect(
  () => {
    const element = canvas.value
    if (!element || !width.value) return
    const ratio = window.devicePixelRatio || 1
    element.width = width.value * ratio
    element.height = HEIGHT * ratio
    const context = element.getContext('2d')!
    context.scale(ratio, ratio)
    const colours = pageColours.value
    const place = (ms: number) => (ms / length.value) * width.value
    context.fillStyle = colours.tide
    context.globalAlpha = 0.3
    for (const caption of track.captions) {
      context.fillRect(place(caption.in_ms), 12, Math.max(place(caption.out_ms - caption.in_ms) - 0.8, 0.6), 8)
    }
    context.globalAlpha = 1
    for (const finding of props.findings) {
      context.fillStyle = finding.weight === 'error' ? colours.heather : colours.straw
      diamond(context, place(finding.in_ms), 16, 4.5)
    }
    if (props.current) {
      context.fillStyle = colours.ink
      diamond(context, place(props.current.in_ms), 16, 7.5)
    }
  },
  { flush: 'post' },
)

function diamond(context: CanvasRenderingContext2D, x: number, y: number, size: number) {
  context.beginPath()
  context.moveTo(x, y - size)
  context.lineTo(x + size, y)
  context.lineTo(x, y + size)
  context.lineTo(x - size, y)
  context.fill()
}
function pressed(event: MouseEvent) {
  emit('show', (event.offsetX / width.value) * length.value)
}
</script>

<template>
  <canvas ref="canvas" class="strip" :style="{ height: `${HEIGHT}px` }" aria-hidden="true" @click="pressed" />
</template>

<style scoped>
.strip {
  display: block;
  width: 100%;
  margin-bottom: 12px;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 6px;
}
</style>
