<script setup lang="ts">
/** The picture of a version under the hand: it takes the film along behind its window. */
import { ref } from 'vue'
import { useI18n } from 'vue-i18n'

import { useVersionWindow } from '@/stages/style/short/useVersionWindow'
import { usePlayer } from '@/picture/playerStore'
import { useProject } from '@/session/projectStore'
import { useVersions } from '@/session/versionsStore'

const { t } = useI18n()
const project = useProject()
const versions = useVersions()
const player = usePlayer()
const { place, canMove, holdAt, letGo } = useVersionWindow()
const surface = ref<HTMLElement | null>(null)

function pressed(event: PointerEvent) {
  const element = surface.value
  if (!element || event.button) return
  event.preventDefault()
  if (!canMove.value) return player.toggle()
  const from = place.value
  const { width, height } = element.getBoundingClientRect()
  const film = project.project!.film
  const window = versions.shown!.window
  let moved = false
  const follow = (move: PointerEvent) => {
    moved = true
    // As far as the hand goes on the screen, the film goes.
    const x = from.x - ((move.clientX - event.clientX) / width) * (window.width / film.width)
    const y = from.y - ((move.clientY - event.clientY) / height) * (window.height / film.height)
    holdAt({ x, y })
  }
  element.setPointerCapture(event.pointerId)
  element.addEventListener('pointermove', follow)
  element.addEventListener(
    'lostpointercapture',
    () => {
      element.removeEventListener('pointermove', follow)
      if (moved) letGo()
      // A press that goes nowhere is one on the film.
      else player.toggle()
    },
    { once: true },
  )
}
</script>

<template>
  <div ref="surface" class="hand" :class="{ can: canMove }" role="img" :aria-label="t('version.hand')" data-window-hand @pointerdown="pressed" />
</template>

<style scoped>
.hand {
  position: absolute;
  inset: 0;
  touch-action: none;
}
.hand.can {
  cursor: grab;
}
.hand.can:active {
  cursor: grabbing;
}
</style>
