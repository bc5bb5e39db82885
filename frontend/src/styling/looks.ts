/** Looks as captions, words and styles say them: a part of all that there is to say. */
import type { Schemas } from '@/api/client'

export type Look = Schemas['Look']

/** Values of a look that shall be others; null gives one back to the level below. */
export type Values = Partial<Look>

/** A look with other values, without those that it leaves to the level below; null for one that says nothing. */
export function lookWith(look: Look | null | undefined, values: Values): Look | null {
  const said = Object.entries({ ...look, ...values }).filter(([, value]) => value !== null && value !== undefined)
  return said.length ? (Object.fromEntries(said) as Look) : null
}
