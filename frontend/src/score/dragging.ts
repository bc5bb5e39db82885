/** Where captions come to lie that a hand drags: one edge, the whole, what is held beside it, and what moves along. */
import type { Times } from '@/stages/time/timingStore'

export type Grip = 'in' | 'out' | 'whole'

/** What moves along: all later captions, or the in of the next one with the out before it. */
export interface Along {
  later: boolean
  seam: boolean
}

export interface Held {
  grip: Grip
  /** The captions that are held, as they were; an edge belongs to the first. */
  times: Times[]
  /** All that come after them. */
  later: Times[]
  /** The one whose in meets the held out. */
  follower: Times | null
  /** What was moved along at some time of the drag: it goes back when its key is let go. */
  touched: Along
}

export interface Room {
  /** Where an edge comes to lie, by what it is drawn to. */
  placed: (ms: number, edge: 'in' | 'out') => number
  /** Milliseconds a caption lasts at the least. */
  least: number
}

const moved = (list: Times[], by: number) =>
  list.map((entry) => ({ ...entry, in_ms: entry.in_ms + by, out_ms: entry.out_ms + by }))

/** Times of all that the drag has touched, when the pointer has moved by so many milliseconds. */
export function dragged(held: Held, byMs: number, along: Along, { placed, least }: Room): Times[] {
  const { grip, times, follower, touched } = held
  const first = times[0]!
  const later = (by: number) => (touched.later ? moved(held.later, along.later ? by : 0) : [])
  if (grip === 'whole') {
    // All move by the same amount, and none below zero.
    const earliest = Math.min(...times.map((entry) => entry.in_ms))
    const by = placed(Math.max(earliest + byMs, 0), 'in') - earliest
    return [...moved(times, by), ...later(by)]
  }
  if (grip === 'in') {
    const in_ms = Math.min(placed(first.in_ms + byMs, 'in'), first.out_ms - least)
    const by = in_ms - first.in_ms
    return [{ ...first, in_ms, out_ms: first.out_ms + (along.later ? by : 0) }, ...later(by)]
  }
  const limit = along.seam && follower ? first.out_ms + follower.out_ms - least - follower.in_ms : Infinity
  const out_ms = Math.min(Math.max(placed(first.out_ms + byMs, 'out'), first.in_ms + least), limit)
  const by = out_ms - first.out_ms
  const result = new Map([{ ...first, out_ms }, ...later(by)].map((entry) => [entry.caption, entry]))
  if (follower && along.seam) result.set(follower.caption, { ...follower, in_ms: follower.in_ms + by })
  else if (follower && touched.seam && !result.has(follower.caption)) result.set(follower.caption, follower)
  return [...result.values()]
}
