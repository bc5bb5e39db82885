/** Words in paragraphs, parted where the speaker pauses. */
import type { Word } from '@/api/client'

export interface Paragraph {
  first: number
  startMs: number
  words: readonly Word[]
}

const PAUSE_MS = 900
/** A recogniser that hears no pauses still gets paragraphs that can be read. */
const MOST_WORDS = 90

export function paragraphs(words: readonly Word[]): Paragraph[] {
  const found: Paragraph[] = []
  let first = 0
  words.forEach((word, index) => {
    const next = words[index + 1]
    const pause = next ? next.start_ms - word.end_ms : Infinity
    const full = index + 1 - first >= MOST_WORDS && /[.!?…]$/.test(word.text)
    if (pause < PAUSE_MS && !full) return
    found.push({ first, startMs: words[first]!.start_ms, words: words.slice(first, index + 1) })
    first = index + 1
  })
  return found
}
