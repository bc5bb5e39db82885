/** Where a version's window is at a time: the same sum as the server's, for each frame that is shown. */
import type { Version } from '@/session/versionsStore'

export type WindowMoment = NonNullable<Version['moments']>[number]

/** The middle of a window at a time, in parts of the film's picture. */
export function placeAt(moments: readonly WindowMoment[], ms: number): { x: number; y: number } {
  const at = Math.max(inForce(moments, ms), 0)
  const { x = 0.5, y = 0.5, at_ms } = moments[at] ?? { at_ms: 0 }
  const next = moments[at + 1]
  if (!next || next.comes !== 'glide' || ms < at_ms) return { x, y }
  const part = (ms - at_ms) / (next.at_ms - at_ms)
  const eased = part * part * (3 - 2 * part)
  return { x: x + ((next.x ?? 0.5) - x) * eased, y: y + ((next.y ?? 0.5) - y) * eased }
}

/** The number of the moment that a time is behind; -1 before the first. */
export const inForce = (moments: readonly WindowMoment[], ms: number) => moments.findLastIndex(({ at_ms }) => at_ms <= ms)

/** Where the film lies behind a window, in parts of the window, so that it never shows what is beyond the film. */
export function filmBehind(place: { x: number; y: number }, film: Size, window: Size) {
  const width = film.width / window.width
  const height = film.height / window.height
  const within = (middle: number, whole: number) => -Math.min(Math.max(middle * whole - 0.5, 0), whole - 1)
  return { left: within(place.x, width), top: within(place.y, height), width, height }
}
interface Size {
  width: number
  height: number
}

/** The moments with one of them another, in the order of time. */
export function withMoment(moments: readonly WindowMoment[], moment: WindowMoment): WindowMoment[] {
  return [...moments.filter(({ at_ms }) => at_ms !== moment.at_ms), moment].toSorted((a, b) => a.at_ms - b.at_ms)
}
