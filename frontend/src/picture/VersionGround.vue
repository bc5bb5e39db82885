<script setup lang="ts">
/** What lies around a whole film in a version's picture: the film itself, blurred and a little darker. */
import { ref } from 'vue'

/** Blurred as much, and as dark, as it is burned: parts of the picture's width, and of its light. */
const [BLUR, LIGHT] = [0.03, 0.75]
/** It has no detail: as many pixels across are enough. */
const ACROSS = 120

const { ratio } = defineProps<{ ratio: number }>()
const canvas = ref<HTMLCanvasElement | null>(null)

/** Draws a frame of the film over all of it. */
function draw(video: HTMLVideoElement) {
  const context = canvas.value?.getContext('2d')
  if (!context || !video.videoWidth) return
  const { width, height } = context.canvas
  const scale = Math.max(width / video.videoWidth, height / video.videoHeight)
  const [across, down] = [video.videoWidth * scale, video.videoHeight * scale]
  context.drawImage(video, (width - across) / 2, (height - down) / 2, across, down)
}
defineExpose({ draw })
</script>

<template>
  <div class="ground" :style="{ '--light': LIGHT, '--blur': `${BLUR * 100}cqw` }">
    <canvas ref="canvas" :width="ACROSS" :height="Math.round(ACROSS / ratio)" />
  </div>
</template>

<style scoped>
.ground {
  position: absolute;
  inset: 0;
  overflow: hidden;
  container-type: size;
}
canvas {
  width: 100%;
  height: 100%;
  filter: blur(var(--blur)) brightness(var(--light));
}
</style>
