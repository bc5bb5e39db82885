/** What an edge is drawn to while it is moved. */
import { firstIndex } from '@/kit/ordered'

export interface SnapTo {
  frames: boolean
  speech: boolean
  shots: boolean
  neighbours: boolean
}

export const SNAPS = ['frames', 'speech', 'shots', 'neighbours'] as const

/** The nearest of some times in order within reach, or the time itself. */
export function drawn(ms: number, targets: readonly number[], withinMs: number): number {
  let best = ms
  let nearest = withinMs
  for (const target of targets) {
    const away = Math.abs(target - ms)
    if (away <= nearest && (away < nearest || best === ms)) {
      best = target
      nearest = away
    }
  }
  return best
}

/** Those of some things in order that lie near a time: a few, however long the film is. */
export function near<T>(things: readonly T[], at: (thing: T) => number, ms: number, withinMs: number): T[] {
  const found: T[] = []
  for (let i = firstIndex(things, at, ms - withinMs); i < things.length && at(things[i]!) <= ms + withinMs; i++) found.push(things[i]!)
  return found
}

/** Milliseconds of speech between two times. */
export function spokenBetween(speech: readonly { start_ms: number; end_ms: number }[], fromMs: number, toMs: number): number {
  let sum = 0
  for (let i = firstIndex(speech, (stretch) => stretch.end_ms, fromMs); i < speech.length && speech[i]!.start_ms < toMs; i++) {
    sum += Math.min(speech[i]!.end_ms, toMs) - Math.max(speech[i]!.start_ms, fromMs)
  }
  return sum
}
