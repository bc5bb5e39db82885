/** What a caption that is moved on the picture comes to lie on, and the lines that show it. */
import type { Point } from '@/stages/style/frames'

export interface Guide {
  axis: 'x' | 'y'
  at: number
  name: 'centre' | 'third' | 'safe' | 'edge' | 'caption'
}

/** Part of the picture that titles keep clear of on each side (SMPTE ST 2046-1: title safe is 90 %). */
export const SAFE = 0.05

/** Lines of a picture of this size, and of the captions on it, by what they cover. */
export function guidesOf(width: number, height: number, others: readonly (readonly [number, number, number, number])[]): Guide[] {
  const along = (axis: 'x' | 'y', length: number): Guide[] => [
    { axis, at: length / 2, name: 'centre' },
    ...[1 / 3, 2 / 3].map((part) => ({ axis, at: length * part, name: 'third' as const })),
    ...[SAFE, 1 - SAFE].map((part) => ({ axis, at: length * part, name: 'safe' as const })),
    ...[0, length].map((at) => ({ axis, at, name: 'edge' as const })),
  ]
  const captions = others.flatMap(([left, top, right, bottom]): Guide[] => [
    ...[left, (left + right) / 2, right].map((at) => ({ axis: 'x' as const, at, name: 'caption' as const })),
    ...[top, (top + bottom) / 2, bottom].map((at) => ({ axis: 'y' as const, at, name: 'caption' as const })),
  ])
  return [...along('x', width), ...along('y', height), ...captions]
}

/** How far what covers a part of the picture has to go further to lie on guides near by, and on which. */
export function snapped(
  [left, top, right, bottom]: readonly [number, number, number, number],
  guides: readonly Guide[],
  within: number,
): Point & { on: Guide[] } {
  const stops = { x: [left, (left + right) / 2, right], y: [top, (top + bottom) / 2, bottom] }
  const found = { x: 0, y: 0, on: [] as Guide[] }
  for (const axis of ['x', 'y'] as const) {
    let best = within
    let on: Guide | null = null
    for (const guide of guides) {
      if (guide.axis !== axis) continue
      stops[axis].forEach((stop, index) => {
        // The middle of the picture is for middles; its edges are for edges.
        if ((index === 1) !== (guide.name === 'centre') && guide.name !== 'caption' && guide.name !== 'third') return
        const away = Math.abs(guide.at - stop)
        if (away >= best) return
        best = away
        on = guide
        found[axis] = guide.at - stop
      })
    }
    if (on) found.on.push(on)
  }
  return found
}
