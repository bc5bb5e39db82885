/** Characters as Unicode counts them, and as a browser's strings do. */

const BEYOND = /[\ud800-\udbff]/

/**
 * Where a place in a text is in its string. Dunlin's core counts characters; a string of the browser counts
 * those outside of the basic plane, such as most emoji, as two.
 */
export function unitAt(text: string, place: number): number {
  if (!BEYOND.test(text)) return place
  let at = 0
  for (const character of text) {
    if (place-- <= 0) return at
    at += character.length
  }
  return at
}
