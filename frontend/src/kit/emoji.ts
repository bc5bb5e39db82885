/** Emoji in a text, which are shown as they are drawn over the film. */

export interface Piece {
  text: string
  /** The address of its picture, where it is an emoji. */
  picture?: string
}

const SEGMENTS = new Intl.Segmenter('en', { granularity: 'grapheme' })
const SHOWN_AS_EMOJI = /\p{Emoji_Presentation}|\uFE0F/u
const AS_TEXT = '\uFE0E'
const AS_EMOJI = 0xfe0f

/** A text in pieces; each emoji is one. */
export function pieces(text: string): Piece[] {
  if (!SHOWN_AS_EMOJI.test(text)) return [{ text }]
  const found: Piece[] = []
  for (const { segment } of SEGMENTS.segment(text)) {
    const last = found.at(-1)
    if (SHOWN_AS_EMOJI.test(segment) && !segment.includes(AS_TEXT)) found.push({ text: segment, picture: `/api/emoji/${nameOf(segment)}` })
    else if (last && !last.picture) last.text += segment
    else found.push({ text: segment })
  }
  return found
}

const nameOf = (emoji: string) =>
  Array.from(emoji, (point) => point.codePointAt(0)!)
    .filter((point) => point !== AS_EMOJI)
    .map((point) => point.toString(16).padStart(4, '0'))
    .join('-')
