/** The words of a caption as short form shows them, each by where it begins in the caption's text. */
import type { Caption } from '@/session/captions'

export interface ShortWord {
  text: string
  /** Character of the caption's text that it begins with. */
  offset: number
  /** When it begins to be spoken, in milliseconds; null where nobody knows. */
  start_ms: number | null
  /** Of which kind of weight it is. */
  emphasis: 0 | 1 | 2
  emoji: string | null
  emojiPlace: 'above' | 'beside' | 'caption' | null
  emojiMotion: 'pop' | 'sway' | 'turn' | null
  /** Whether a caption begins with it, or none, by hand. */
  boundary: 'break' | 'join' | null
  isStyled: boolean
}

/** A caption that is another has words of its own. */
const known = new WeakMap<object, readonly ShortWord[]>()

export function wordsOf(caption: Pick<Caption, 'spans'>): readonly ShortWord[] {
  let words = known.get(caption)
  if (!words) known.set(caption, (words = wordsIn(caption)))
  return words
}

function wordsIn(caption: Pick<Caption, 'spans'>): ShortWord[] {
  const words: ShortWord[] = []
  let offset = 0
  let goesOn = false
  for (const span of caption.spans) {
    const spoken = span.spoken ?? null
    for (const part of span.text.split(/(\s+)/)) {
      if (!part) continue
      const last = words.at(-1)
      if (/^\s/.test(part)) {
        goesOn = false
      } else if (goesOn && last && last.start_ms === (spoken?.start_ms ?? null)) {
        last.text += part
      } else {
        words.push({
          text: part, offset, start_ms: spoken?.start_ms ?? null, emphasis: spoken?.emphasis ?? 0, emoji: spoken?.emoji ?? null,
          emojiPlace: spoken?.emoji_place ?? null, emojiMotion: spoken?.emoji_motion ?? null,
          boundary: spoken?.boundary ?? null, isStyled: Boolean(span.italic || span.bold || span.underline || span.colour || span.look),
        })
        goesOn = true
      }
      offset += part.length
    }
  }
  return words
}

/** The number of the word that is spoken at a time: the last that has begun; -1 before the first. */
export function spokenAt(words: readonly ShortWord[], ms: number): number {
  return words.findLastIndex(({ start_ms }) => start_ms !== null && start_ms <= ms)
}
