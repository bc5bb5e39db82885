/** Presses and turns in a row that belong together, as they are about the same thing and come soon after each other. */
import { newId } from '@/session/identity'

/** What comes later is a gesture of its own. */
const PAUSE_MS = 2000

/** Names the gesture that something is part of: what is done to it in a row is undone as one. */
export function goingOn(): (what: string) => string {
  let last = { what: '', gesture: '', at: 0 }
  return (what) => {
    const now = Date.now()
    last = last.what === what && now - last.at <= PAUSE_MS ? { ...last, at: now } : { what, gesture: newId(), at: now }
    return last.gesture
  }
}
