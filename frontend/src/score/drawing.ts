/** Draws what flows beside the cards: the ruler and the sound. */
import { computed } from 'vue'

import type { Geometry } from '@/score/geometry'
import type { Peaks } from '@/score/peaks'
import { light } from '@/shared/theme'
import { minutes } from '@/shared/time'

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
  peaks: Peaks
  top: number
  width: number
  height: number
  rulerWidth: number
  durationMs: number
  colours: Colours
  /** Stretches that captions cover, tinted behind the sound. */
  covered: readonly (readonly [number, number])[]
}

/** Ruler marks stand at least this many pixels apart. */
const MARK_APART = 46
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
  if (view.peaks.info.value) drawPeaks(context, view)
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
    context.fillText(markText(ms, stepMs), view.rulerWidth - 8, y)
    context.moveTo(view.rulerWidth - 4, Math.round(y) + 0.5)
    context.lineTo(view.rulerWidth, Math.round(y) + 0.5)
  }
  context.stroke()
}

function markText(ms: number, stepMs: number): string {
  return stepMs < 1000 ? `${minutes(Math.floor(ms / 1000) * 1000)}.${Math.round((ms % 1000) / 100)}` : minutes(ms)
}

function drawPeaks(context: CanvasRenderingContext2D, view: SoundView) {
  const { geometry, peaks } = view
  const middle = (view.rulerWidth + view.width) / 2
  const reach = (view.width - view.rulerWidth) / 2 - 3
  const sample = geometry.rows ? 1 : geometry.ms(1)
  const level = peaks.levelFor(sample)
  context.fillStyle = view.colours.tide
  context.beginPath()
  let from = geometry.ms(view.top)
  for (let y = 0; y < view.height; y++) {
    const to = geometry.ms(view.top + y + 1)
    if (from >= view.durationMs) break
    const rowLevel = geometry.rows ? peaks.levelFor(Math.max(to - from, 1)) : level
    const peak = peaks.between(rowLevel, from, Math.max(to, from + 0.001))
    if (peak) {
      const left = Math.max(reach * lifted(-peak[0]), 0.5)
      const right = Math.max(reach * lifted(peak[1]), 0.5)
      context.rect(middle - left, y, left + right, 1)
    }
    from = to
  }
  context.fill()
}

/** Quiet speech drawn wider than it is, so that it shows beside loud speech. */
const lifted = (amplitude: number) => amplitude ** 0.7
