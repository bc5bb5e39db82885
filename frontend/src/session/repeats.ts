/** The name of a gesture of keys that goes on for as long as the same is pressed soon again: one step of undo. */
import { newId } from '@/session/identity'

const SOON_MS = 1500

export function repeatedGesture(): (what: string) => string {
  let last = { what: '', at: 0, gesture: '' }
  return (what) => {
    const at = performance.now()
    const same = last.what === what && at - last.at < SOON_MS
    last = { what, at, gesture: same ? last.gesture : newId() }
    return last.gesture
  }
}
