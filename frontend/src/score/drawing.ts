/** Draws what flows beside the cards: the ruler and the sound. */
import { computed } from 'vue'

import type { Geometry } from '@/score/geometry'
import type { Peaks } from '@/score/peaks'
import type { SoundLook } from '@/score/soundLook'
import { SLICE_MS, type Spectrum, STEP_MS } from '@/score/spectrum'
import { firstIndex } from '@/kit/ordered'
import { light } from '@/kit/theme'
import { frameAt, type FrameRate, minutes, startOfFrame } from '@/kit/time'

export interface Colours {
  line: string
  soft: string
  tide: string
  wash: string
  heather: string
  straw: string
  ink: string
}

/** The page's colours, as a canvas needs them, read once for each light. */
export const pageColours = computed<Colours>(() => {
  void light.value
  const style = getComputedStyle(document.documentElement)
  const read = (name: string) => style.getPropertyValue(name).trim()
  return {
    line: read('--line'), soft: read('--soft'), tide: read('--tide'), wash: read('--tide-wash'),
    heather: read('--heather'), straw: read('--straw-bright'), ink: read('--ink'),
  }
})

export interface SoundView {
  geometry: Geometry
  filmId: string
  peaks: Peaks
  spectrum: Spectrum
  look: SoundLook
  top: number
  width: number
  height: number
  rulerWidth: number
  durationMs: number
  colours: Colours
  /** Stretches that captions cover, tinted behind the sound. */
  covered: readonly (readonly [number, number])[]
  /** Stretches in which somebody speaks, told by a band beside the ruler. */
  speech: readonly { start_ms: number; end_ms: number }[]
  shots: readonly number[]
  rate: FrameRate
}

/** Ruler marks stand at least this many pixels apart. */
const MARK_APART = 46
/** Lines of frames stand at least this many pixels apart. */
const FRAMES_APART = 12
const MARKS_MS = [100, 200, 500, 1000, 2000, 5000, 10_000, 30_000, 60_000, 300_000, 600_000]

export function drawSound(canvas: HTMLCanvasElement, view: SoundView) {
  const ratio = window.devicePixelRatio || 1
  const { width, height } = view
  if (canvas.width !== Math.round(width * ratio) || canvas.height !== Math.round(height * ratio)) {
    canvas.width = Math.round(width * ratio)
    canvas.height = Math.round(height * ratio)
  }
  const context = canvas.getContext('2d')!
  context.setTransform(ratio, 0, 0, ratio, 0, 0)
  context.clearRect(0, 0, width, height)
  drawCovered(context, view)
  drawRuler(context, view)
  drawSpeech(context, view)
  const { left, right } = columns(view)
  if (view.peaks.info.value) {
    if (right > left) drawPeaks(context, view, left, right)
    if (right < view.width) drawPitches(context, view, right, view.width)
  }
  drawFrames(context, view)
  drawShots(context, view)
}

/** From where to where the outline stands; what is left of the width is for the pitches. */
function columns({ look, geometry, rulerWidth, width }: SoundView): { left: number; right: number } {
  // Far out there is no room for pitches: a row may stand for a minute.
  const share = geometry.rows || look.picture === 'outline' ? 1 : look.picture === 'both' ? 0.5 : 0
  return { left: rulerWidth, right: rulerWidth + (width - rulerWidth) * share }
}

function drawCovered(context: CanvasRenderingContext2D, view: SoundView) {
  context.fillStyle = view.colours.wash
  context.globalAlpha = 0.45
  for (const [from, to] of view.covered) {
    const top = view.geometry.y(from) - view.top
    const bottom = view.geometry.y(to) - view.top
    context.fillRect(view.rulerWidth, top, view.width - view.rulerWidth, bottom - top)
  }
  context.globalAlpha = 1
}

/** Lines of single frames, close in. */
function drawFrames(context: CanvasRenderingContext2D, view: SoundView) {
  const { geometry, rate } = view
  const apart = geometry.y((1000 * rate.denominator) / rate.numerator)
  if (geometry.rows || apart < FRAMES_APART) return
  const last = geometry.ms(view.top + view.height)
  context.strokeStyle = view.colours.soft
  context.globalAlpha = 0.35
  context.beginPath()
  for (let frame = frameAt(Math.max(geometry.ms(view.top), 0), rate); startOfFrame(frame, rate) <= last; frame++) {
    const y = Math.round(geometry.y(startOfFrame(frame, rate)) - view.top) + 0.5
    context.moveTo(view.rulerWidth, y)
    context.lineTo(view.width, y)
  }
  context.stroke()
  context.globalAlpha = 1
}

function drawSpeech(context: CanvasRenderingContext2D, view: SoundView) {
  if (view.geometry.rows) return
  const last = view.geometry.ms(view.top + view.height)
  context.fillStyle = view.colours.tide
  context.globalAlpha = 0.55
  for (let i = firstIndex(view.speech, (stretch) => stretch.end_ms, view.geometry.ms(view.top)); i < view.speech.length; i++) {
    const { start_ms, end_ms } = view.speech[i]!
    if (start_ms > last) break
    const top = view.geometry.y(start_ms) - view.top
    context.fillRect(view.rulerWidth, top, 3, Math.max(view.geometry.y(end_ms) - view.top - top, 1))
  }
  context.globalAlpha = 1
}

function drawShots(context: CanvasRenderingContext2D, view: SoundView) {
  if (view.geometry.rows) return
  const last = view.geometry.ms(view.top + view.height)
  context.strokeStyle = view.colours.straw
  context.setLineDash([6, 4])
  context.beginPath()
  for (let i = firstIndex(view.shots, (shot) => shot, view.geometry.ms(view.top)); i < view.shots.length; i++) {
    if (view.shots[i]! > last) break
    const y = Math.round(view.geometry.y(view.shots[i]!) - view.top) + 0.5
    context.moveTo(view.rulerWidth, y)
    context.lineTo(view.width, y)
  }
  context.stroke()
  context.setLineDash([])
}

function drawRuler(context: CanvasRenderingContext2D, view: SoundView) {
  context.font = '11px "Atkinson Hyperlegible Mono", monospace'
  context.textAlign = 'right'
  context.textBaseline = 'middle'
  context.strokeStyle = view.colours.line
  context.fillStyle = view.colours.soft
  if (view.geometry.rows) return
  const perMs = view.geometry.y(1000) / 1000
  const stepMs = MARKS_MS.find((step) => step * perMs >= MARK_APART) ?? MARKS_MS.at(-1)!
  const first = Math.max(0, Math.floor(view.geometry.ms(view.top) / stepMs))
  context.beginPath()
  for (let mark = first; ; mark++) {
    const ms = mark * stepMs
    const y = view.geometry.y(ms) - view.top
    if (y > view.height || ms > view.durationMs) break
    // A label that would be cut off says something else.
    if (y >= 7 && y <= view.height - 7) context.fillText(markText(ms), view.rulerWidth - 8, y)
    context.moveTo(view.rulerWidth - 4, Math.round(y) + 0.5)
    context.lineTo(view.rulerWidth, Math.round(y) + 0.5)
  }
  context.stroke()
}

function markText(ms: number): string {
  // Between whole seconds there is room for the second alone.
  return ms % 1000 ? `:${String(Math.floor(ms / 1000) % 60).padStart(2, '0')}.${Math.round((ms % 1000) / 100)}` : minutes(ms)
}

function drawPeaks(context: CanvasRenderingContext2D, view: SoundView, left: number, right: number) {
  const { geometry, peaks, look } = view
  const middle = (left + right) / 2
  const reach = (right - left) / 2 - 3
  const sample = geometry.rows ? 1 : geometry.ms(1)
  const level = peaks.levelFor(sample)
  const drawn = (amplitude: number) => Math.max(reach * lifted(Math.min(amplitude * look.amplitude, 1)), 0.5)
  context.fillStyle = view.colours.tide
  context.beginPath()
  let from = geometry.ms(view.top)
  for (let y = 0; y < view.height; y++) {
    const to = geometry.ms(view.top + y + 1)
    if (from >= view.durationMs) break
    const rowLevel = geometry.rows ? peaks.levelFor(Math.max(to - from, 1)) : level
    const peak = peaks.between(rowLevel, from, Math.max(to, from + 0.001))
    if (peak) {
      const below = drawn(-peak[0])
      context.rect(middle - below, y, below + drawn(peak[1]), 1)
    }
    from = to
  }
  context.fill()
}

function drawPitches(context: CanvasRenderingContext2D, view: SoundView, left: number, right: number) {
  const { geometry, spectrum } = view
  const look = { colour: view.colours.tide, contrast: view.look.contrast }
  const last = Math.min(geometry.ms(view.top + view.height), view.durationMs)
  for (let index = Math.floor(geometry.ms(view.top) / SLICE_MS); index * SLICE_MS < last; index++) {
    const picture = spectrum.picture(view.filmId, index, look)
    if (!picture) continue
    const top = geometry.y(index * SLICE_MS) - view.top
    const height = geometry.y(picture.height * STEP_MS)
    context.drawImage(picture, left + 4, top, right - left - 8, height)
  }
}

/** Quiet speech drawn wider than it is, so that it shows beside loud speech. */
const lifted = (amplitude: number) => amplitude ** 0.7
