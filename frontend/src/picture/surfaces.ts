/**
 * Surfaces beside the film that captions are drawn on. To begin a renderer takes longer than to draw with it, so that one is
 * begun when it is about to be needed, and one that is no longer needed waits for the next who does.
 */
import { CaptionOverlay } from '@/picture/captionOverlay'

export interface Surface {
  canvas: HTMLCanvasElement
  overlay: CaptionOverlay
}

const NOTHING = '[Script Info]\nScriptType: v4.00+\n'

let waiting: Surface | null = null

function begun(): Surface {
  const canvas = document.createElement('canvas')
  return { canvas, overlay: new CaptionOverlay(canvas, NOTHING) }
}

/** Begins a surface, where none waits. */
export function beginSurface() {
  waiting ??= begun()
}

/** Has the surface that waits read what it will draw. */
export function prepareSurface(script: string) {
  void waiting?.overlay.put(script, [])
}

/** The surface that waits, or one that begins now. */
export function takeSurface(): Surface {
  const taken = waiting ?? begun()
  waiting = null
  return taken
}

/** Has a surface wait for the next who needs one. */
export function leaveSurface(surface: Surface) {
  surface.canvas.remove()
  if (waiting) surface.overlay.destroy()
  else waiting = surface
}

/** Lets go of a surface for good, and of that which waits: a renderer keeps the fonts it was given. */
export function endSurfaces(surface: Surface | null) {
  for (const each of [surface, waiting]) {
    each?.canvas.remove()
    each?.overlay.destroy()
  }
  waiting = null
}
