/** How much room the words of a caption have. */
import type { Caption } from '@/session/captions'

/** Characters that are read of a caption, as the server counts them: its speed is characters a second. */
export const charactersOf = ({ measures }: Pick<Caption, 'measures'>): number => Math.round((measures.reading_speed * measures.duration_ms) / 1000)

/** Characters that may still be written at a reading speed, less than none where there are too many; null without a limit. */
export function charactersLeft(caption: Pick<Caption, 'measures' | 'in_ms' | 'out_ms'>, perSecond: number | null | undefined): number | null {
  if (!perSecond) return null
  return Math.floor((perSecond * (caption.out_ms - caption.in_ms)) / 1000 + 1e-6) - charactersOf(caption)
}
