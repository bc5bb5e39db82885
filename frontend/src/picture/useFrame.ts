/** The frame that the film shows, as pixels: read when it is asked for. */
import { useDebounceFn, useEventListener } from '@vueuse/core'

import { usePlayer } from '@/picture/playerStore'
import type { Pixels } from '@/picture/frameColours'

const HAVE_CURRENT_DATA = 2
/** Frames that are shown for less are not looked at. */
const STANDS_MS = 200

export function useFrame() {
  const player = usePlayer()
  const canvas = document.createElement('canvas')

  /** The frame in a size; null where there is no picture. */
  function frame(width: number, height: number): (Pixels & { canvas: HTMLCanvasElement }) | null {
    const { video } = player
    if (!video?.videoWidth || video.readyState < HAVE_CURRENT_DATA) return null
    canvas.width = width
    canvas.height = height
    const context = canvas.getContext('2d', { willReadFrequently: true })!
    context.drawImage(video, 0, 0, width, height)
    return Object.assign(context.getImageData(0, 0, width, height), { canvas })
  }
  /** Calls back for each frame that the film comes to stand on, and for the first. */
  function onFrame(callback: () => void) {
    const debounced = useDebounceFn(() => !player.playing && callback(), STANDS_MS)
    useEventListener(() => player.video, ['loadeddata', 'seeked', 'pause'], debounced)
    if (player.video) void debounced()
  }
  return { frame, onFrame }
}
