/**
 * Surfaces beside the film that captions are drawn on. To begin a renderer takes longer than to draw with it, so that one is
 * begun when it is about to be needed, and one that is no longer needed waits for the next who does.
 */
import { CaptionOverlay } from '@/picture/captionOverlay'

export interface Surface {
  canvas: HTMLCanvasElement
  overlay: CaptionOverlay
}

/** In pixels of the page. */
export interface Size {
  width: number
  height: number
}

/** What is drawn beside the film is a script's moment at which everything is at rest. */
const AT_REST_SECONDS = 1

const NOTHING = '[Script Info]\nScriptType: v4.00+\n'

let waiting: Surface | null = null
/** Where the surface that waits is drawn on, unseen: it takes its measure from what it lies in. */
let room: HTMLElement | null = null

function begun(): Surface {
  const canvas = document.createElement('canvas')
  canvas.style.cssText = 'width: 100%; height: 100%'
  return { canvas, overlay: new CaptionOverlay(canvas, NOTHING) }
}

/** Begins a surface, where none waits. */
export function beginSurface() {
  waiting ??= begun()
}

/** Has the surface that waits draw what will be seen on it, in the size that it will have. */
export function prepareSurface(script: string, size: Size) {
  if (!waiting) return
  room ??= document.body.appendChild(document.createElement('div'))
  room.style.cssText = `position: fixed; top: 0; left: 0; width: ${size.width}px; height: ${size.height}px; visibility: hidden; pointer-events: none`
  room.append(waiting.canvas)
  void drawOn(waiting, script, size)
}

/** Draws a script in the size of what a surface lies in; nothing, where it stands there. */
export async function drawOn({ overlay }: Surface, script: string, size: Size) {
  // Said in one breath it is drawn once. The box is as large as the picture, and so needs no measure of its own.
  await Promise.all([overlay.put(script, []), overlay.show({ mediaTime: AT_REST_SECONDS, ...size })])
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
  surface.overlay.loseBox()
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
