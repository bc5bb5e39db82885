/** Styles side by side: how they stand, and what is drawn of them, asked for early when a hand comes near. */
import { useStorage } from '@vueuse/core'

import { answered, client, type Schemas } from '@/api/client'
import { prepareSurface, type Size } from '@/picture/surfaces'

export type Specimens = Schemas['SpecimensView']

/** A cell's picture, what is under it, and the room between cells, in pixels. */
export const [WIDTH, HEIGHT, UNDER, GAP] = [152, 58, 26, 9]
export const across = WIDTH + GAP
export const down = HEIGHT + UNDER + GAP

/** The size of all together. */
export const sizeOf = (count: number, columns: number): Size => ({ width: across * columns, height: down * Math.max(Math.ceil(count / columns), 1) })

/** How many stood beside each other when they were seen last; 0 before they ever were. */
export const lastColumns = useStorage('dunlin.specimen-columns', 0)

/** The names of what is drawn and the script that draws it; none where the server does not say. */
export function specimensOf(track_id: string, columns: number, in_fonts?: string | null): Promise<Specimens | null> {
  const query = { width: WIDTH, height: HEIGHT, across, down, columns, in_fonts }
  return answered(client.GET('/api/tracks/{track_id}/specimens', { params: { path: { track_id }, query } })).catch(() => null)
}

/** As long as a hand may hesitate; what is older is not shown. */
const FRESH_MS = 5000

let early: { track: string; columns: number; askedAt: number; found: Promise<Specimens | null> } | null = null

const isFresh = (track: string, columns: number) =>
  early !== null && early.track === track && early.columns === columns && performance.now() - early.askedAt < FRESH_MS

/** Asks for a track's styles before they are seen, where it is known how they will stand; a hand that came and presses asks once. */
export function askEarly(track: string) {
  const columns = lastColumns.value
  if (!track || !columns || isFresh(track, columns)) return
  early = { track, columns, askedAt: performance.now(), found: specimensOf(track, columns) }
  void early.found.then((found) => found && prepareSurface(found.script, sizeOf(found.names.length, columns)))
}

/** What was asked for early, to be seen until the newest is there; told once. */
export function askedEarly(track: string, columns: number): Promise<Specimens | null> | null {
  const asked = isFresh(track, columns) ? early!.found : null
  early = null
  return asked
}
