/** How much room the words of a caption have. */
import type { Caption } from '@/session/captions'

/** Characters that may still be written at a reading speed, less than none where there are too many; null without a limit. */
export function charactersLeft({ measures, in_ms, out_ms }: Pick<Caption, 'measures' | 'in_ms' | 'out_ms'>, perSecond: number | null | undefined): number | null {
  if (!perSecond) return null
  // As the server counts them: its speed is characters a second.
  const there = Math.round((measures.reading_speed * measures.duration_ms) / 1000)
  return Math.floor((perSecond * (out_ms - in_ms)) / 1000 + 1e-6) - there
}
