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
