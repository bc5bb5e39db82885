<script setup lang="ts">
/** What lies around a whole film in a version's picture: the film itself, blurred and a little darker. */
import { ref } from 'vue'

/** Blurred as much, and as dark, as it is burned: parts of the picture's width, and of its light. */
const [BLUR, LIGHT] = [0.03, 0.75]
/** It has no detail: as many pixels across are enough. On each side there is so much more, or it would fade at its edges. */
const ACROSS = 120
const BRIM = Math.ceil(ACROSS * BLUR * 3)

const { ratio } = defineProps<{ ratio: number }>()
const canvas = ref<HTMLCanvasElement | null>(null)

/** Draws a frame of the film over all of it. */
function draw(video: HTMLVideoElement) {
  const context = canvas.value?.getContext('2d')
  if (!context || !video.videoWidth) return
  const width = context.canvas.width - 2 * BRIM
  const height = context.canvas.height - 2 * BRIM
  const scale = Math.max(width / video.videoWidth, height / video.videoHeight)
  const [across, down] = [video.videoWidth * scale, video.videoHeight * scale]
  context.drawImage(video, BRIM + (width - across) / 2, BRIM + (height - down) / 2, across, down)
  // Where the film ends, its last pixels go on.
  const whole = { width: width + 2 * BRIM, height: height + 2 * BRIM }
  if (down < whole.height) {
    context.drawImage(context.canvas, 0, BRIM + 1, whole.width, 1, 0, 0, whole.width, BRIM + 1)
    context.drawImage(context.canvas, 0, BRIM + height - 2, whole.width, 1, 0, BRIM + height - 1, whole.width, BRIM + 1)
  }
  if (across < whole.width) {
    context.drawImage(context.canvas, BRIM + 1, 0, 1, whole.height, 0, 0, BRIM + 1, whole.height)
    context.drawImage(context.canvas, BRIM + width - 2, 0, 1, whole.height, BRIM + width - 1, 0, BRIM + 1, whole.height)
  }
}
defineExpose({ draw })
</script>

<template>
  <div class="ground" :style="{ '--light': LIGHT, '--blur': `${BLUR * 100}cqw` }">
    <canvas ref="canvas" :width="ACROSS + 2 * BRIM" :height="Math.round(ACROSS / ratio) + 2 * BRIM" :style="{ inset: `${(-BRIM / ACROSS) * 100}cqw` }" />
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
  position: absolute;
  width: calc(100cqw + 2 * v-bind('`${(BRIM / ACROSS) * 100}cqw`'));
  height: calc(100cqh + 2 * v-bind('`${(BRIM / ACROSS) * 100}cqw`'));
  filter: blur(var(--blur)) brightness(var(--light));
}
</style>
