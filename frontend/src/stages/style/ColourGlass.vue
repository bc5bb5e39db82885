<script setup lang="ts">
/** A glass over the picture: a few pixels large, and their mean, which becomes the colour that was chosen to be set. */
import { computed, nextTick, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import { usePlayer } from '@/picture/playerStore'
import { meanColour } from '@/picture/frameColours'
import { useFrame } from '@/picture/useFrame'
import { usePicking } from '@/stages/style/pickingStore'

const props = defineProps<{
  /** The picture, in its pixels. */
  width: number
  height: number
}>()

/** Pixels of the picture from the middle of the glass to its edge, and how large each is shown. */
const [REACH, LARGE] = [6, 9]
const SIDE = (2 * REACH + 1) * LARGE

const { t } = useI18n()
const player = usePlayer()
const picking = usePicking()
const { frame } = useFrame()
const glass = ref<HTMLCanvasElement | null>(null)
const colour = ref<string | null>(null)

const place = computed(() => {
  const { x, y } = picking.at!
  // It stands beside the point, on the side that has room.
  return {
    left: `${(x / props.width) * 100}%`,
    top: `${(y / props.height) * 100}%`,
    transform: `translate(${x > props.width * 0.75 ? 'calc(-100% - 18px)' : '18px'}, ${y > props.height * 0.6 ? 'calc(-100% - 18px)' : '18px'})`,
  }
})

async function look() {
  if (!picking.at) return
  const [x, y] = [Math.round(picking.at.x), Math.round(picking.at.y)]
  const pixels = frame(props.width, props.height)
  colour.value = pixels && meanColour(pixels, x, y)
  await nextTick()
  const context = glass.value?.getContext('2d')
  if (!pixels || !context) return
  context.imageSmoothingEnabled = false
  context.fillStyle = '#14191b'
  context.fillRect(0, 0, SIDE, SIDE)
  context.drawImage(pixels.canvas, x - REACH, y - REACH, 2 * REACH + 1, 2 * REACH + 1, 0, 0, SIDE, SIDE)
}
watch([() => picking.at, () => player.timeMs], () => void look(), { immediate: true })

defineExpose({ colour })
</script>

<template>
  <i class="point" :style="{ left: place.left, top: place.top }" />
  <div class="glass" :style="place" data-glass>
    <canvas ref="glass" :width="SIDE" :height="SIDE" />
    <i class="middle" />
    <p class="time"><i class="swatch" :style="{ background: colour ?? 'none' }" />{{ colour ?? t('style.noPicture') }}</p>
  </div>
</template>

<style scoped>
.point {
  position: absolute;
  width: 15px;
  height: 15px;
  margin: -8px 0 0 -8px;
  pointer-events: none !important;
  border: 1.5px solid #fffdf8;
  border-radius: 50%;
  outline: 1px solid #14191b;
}
.glass {
  position: absolute;
  overflow: hidden;
  pointer-events: none !important;
  background: #1d2427;
  border: 2px solid #fffdf8;
  border-radius: 8px;
}
canvas {
  display: block;
}
.middle {
  position: absolute;
  top: 45px;
  left: 45px;
  width: 27px;
  height: 27px;
  border: 1.5px solid #fffdf8;
  outline: 1px solid #14191b;
}
p {
  display: flex;
  align-items: center;
  gap: 6px;
  margin: 0;
  padding: 3px 6px;
  font-size: 12.5px;
  color: #e9e2d3;
}
.swatch {
  width: 12px;
  height: 12px;
  border: 1px solid #e9e2d3;
  border-radius: 3px;
}
</style>
