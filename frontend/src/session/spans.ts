/** Styled text as it is changed here: for words that are selected, from one character to another. */
import type { Caption } from '@/session/captions'

export type Span = Caption['spans'][number]
export type WordStyle = Partial<Pick<Span, 'italic' | 'bold' | 'underline' | 'colour' | 'voice'>>

export interface Range {
  from: number
  to: number
}

/** The parts of styled text before a range, in it and behind it. */
function parted(spans: readonly Span[], { from, to }: Range): [Span[], Span[], Span[]] {
  const parts: [Span[], Span[], Span[]] = [[], [], []]
  let at = 0
  for (const span of spans) {
    const end = at + span.text.length
    const cuts = [at, Math.min(Math.max(from, at), end), Math.min(Math.max(to, at), end), end]
    parts.forEach((part, index) => {
      const text = span.text.slice(cuts[index]! - at, cuts[index + 1]! - at)
      if (text) part.push({ ...span, text })
    })
    at = end
  }
  return parts
}

/** Styled text in which a range has other styles, or other letters as many as it had. */
export function changedBetween(spans: readonly Span[], range: Range, change: (span: Span) => Partial<Span>): Span[] {
  const [before, inside, after] = parted(spans, range)
  return [...before, ...inside.map((span) => ({ ...span, ...change(span) })), ...after]
}

/** Whether all words of a range have a style; white space has none of its own. */
export function allBetween(spans: readonly Span[], range: Range, has: (span: Span) => boolean): boolean {
  const inside = parted(spans, range)[1].filter((span) => span.text.trim())
  return inside.length > 0 && inside.every(has)
}

/** A place in a text that was looked for, and what is put there when it is replaced: null when nothing is. */
export interface Hit {
  start: number
  end: number
  put: string | null
  /** Whether it is the one that one stands on. */
  current: boolean
  /** Whether it is a word that no dictionary knows, and not one that is looked for. */
  unknown?: boolean
}

/** Styled text parted at hits, each of which is told of its last part. */
export function partedAtHits(spans: readonly Span[], hits: readonly Hit[]): (Span & { within?: Hit; ends?: boolean })[] {
  let rest: readonly Span[] = spans
  let at = 0
  const shown: (Span & { within?: Hit; ends?: boolean })[] = []
  for (const hit of hits.toSorted((a, b) => a.start - b.start)) {
    const [before, inside, after] = parted(rest, { from: hit.start - at, to: hit.end - at })
    shown.push(...before, ...inside.map((span, index) => ({ ...span, within: hit, ends: index === inside.length - 1 })))
    rest = after
    at = hit.end
  }
  return [...shown, ...rest]
}

/** Whether anything is styled otherwise than the caption is. */
export const isStyled = (spans: readonly Span[]) =>
  spans.some((span) => span.italic || span.bold || span.underline || span.colour || span.background)
