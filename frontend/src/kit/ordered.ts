/** Finding a place in a list that is in order. */

/** Index of the first thing that stands at a value or behind it; the list's length when none does. */
export function firstIndex<T>(things: readonly T[], at: (thing: T) => number, value: number): number {
  let low = 0
  let high = things.length
  while (low < high) {
    const middle = (low + high) >> 1
    if (at(things[middle]!) < value) low = middle + 1
    else high = middle
  }
  return low
}

/** How many things two lists begin with alike, and how many of the others they end with. */
export function alikeEnds<T>(old: readonly T[], now: readonly T[], same: (one: T, other: T) => boolean): { first: number; kept: number } {
  const least = Math.min(old.length, now.length)
  let first = 0
  while (first < least && same(old[first]!, now[first]!)) first++
  let kept = 0
  while (kept < least - first && same(old.at(-1 - kept)!, now.at(-1 - kept)!)) kept++
  return { first, kept }
}

/** The one that comes behind it; behind the last, the first. */
export const following = <T,>(all: readonly T[], now: T): T => all[(all.indexOf(now) + 1) % all.length]!
