/** Places where somebody speaks and neither side has a caption. */

export interface Stretch {
  start_ms: number
  end_ms: number
}
interface Timed {
  in_ms: number
  out_ms: number
}

/** Speech that is shorter is a breath, or the end of a word that a caption has. */
const LEAST_MS = 500
/** A pause up to this long belongs to what is said before and after it. */
const PAUSE_MS = 400

/**
 * Stretches of speech that no caption of any track covers, those that are near each other as one.
 *
 * @param tracks captions of each, in the order of their ins
 */
export function speechWithoutCaption(speech: readonly Stretch[], tracks: readonly (readonly Timed[])[]): Stretch[] {
  const covered = tracks.flat().sort((a, b) => a.in_ms - b.in_ms)
  const left: Stretch[] = []
  let first = 0
  for (const { start_ms, end_ms } of speech) {
    while (first < covered.length && covered[first]!.out_ms <= start_ms) first++
    let at = start_ms
    for (let i = first; i < covered.length && covered[i]!.in_ms < end_ms; i++) {
      const { in_ms, out_ms } = covered[i]!
      if (in_ms > at) left.push({ start_ms: at, end_ms: in_ms })
      at = Math.max(at, out_ms)
    }
    if (at < end_ms) left.push({ start_ms: at, end_ms })
  }
  const joined: Stretch[] = []
  for (const one of left) {
    const last = joined.at(-1)
    const captionBetween = last && covered.some(({ in_ms }) => in_ms >= last.end_ms && in_ms < one.start_ms)
    if (last && one.start_ms - last.end_ms <= PAUSE_MS && !captionBetween) last.end_ms = one.end_ms
    else joined.push({ ...one })
  }
  return joined.filter(({ start_ms, end_ms }) => end_ms - start_ms >= LEAST_MS)
}
