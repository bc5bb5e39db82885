/** How wide the film is, with what stands under it: as a part of the window, kept by the browser. */
import { useStorage, useWindowSize } from '@vueuse/core'
import { computed } from 'vue'

/** Parts of the window in percent: the usual one, and what leaves both sides room. */
const [USUAL, LEAST, MOST, STEP] = [33.75, 20, 60, 5]
const LEAST_PX = 300
/** The stage beside it shows its cards still. */
const STAGE_PX = 480

export function useFilmWidth() {
  const kept = useStorage('dunlin.film-width', USUAL)
  const { width: windowWidth } = useWindowSize()
  const within = (value: number) => Math.min(Math.max(value, LEAST), MOST)
  const pixels = computed(() =>
    Math.max(Math.min((within(kept.value) / 100) * windowWidth.value, windowWidth.value - STAGE_PX), LEAST_PX),
  )

  function resize(direction: 1 | -1) {
    kept.value = within(kept.value + direction * STEP)
  }

  function dragged(event: PointerEvent) {
    const edge = event.currentTarget as HTMLElement
    edge.setPointerCapture(event.pointerId)
    const moved = (move: PointerEvent) => (kept.value = within((1 - move.clientX / windowWidth.value) * 100))
    edge.addEventListener('pointermove', moved)
    edge.addEventListener('lostpointercapture', () => edge.removeEventListener('pointermove', moved), { once: true })
  }

  return { width: computed(() => `${pixels.value}px`), percent: computed(() => Math.round(within(kept.value))), resize, dragged }
}
