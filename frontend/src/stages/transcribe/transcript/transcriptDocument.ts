/** The transcript as a document: paragraphs by speaker, and a mark on each word that knows when it was spoken. */
import { Mark, type Extensions } from '@tiptap/core'
import Document from '@tiptap/extension-document'
import Paragraph from '@tiptap/extension-paragraph'
import Text from '@tiptap/extension-text'
import { Fragment, type Mark as WordMark, type Node, type Schema } from '@tiptap/pm/model'

import type { Schemas, Word } from '@/api/client'
import { shortClock } from '@/kit/time'

export type Written = Schemas['WrittenWord']

/** Below it a word is doubtful, and below half of it very much so. */
export const DOUBTFUL = 0.5

/** A word of a paragraph, and where in it: `from` and `to` count from the paragraph's first character. */
export interface Token {
  text: string
  from: number
  to: number
  mark: WordMark | null
  /** Its styles, such as italic. */
  styles: readonly WordMark[]
}

export const STYLES = ['italic', 'bold', 'underline'] as const
/** What words are marked as: with styles, and as left out of captions. */
export const MARKS = [...STYLES, 'left_out'] as const
export type Style = (typeof MARKS)[number]

const TIME_LINK = /^\[(?:(\d{1,2}):)?(\d{1,2}):(\d{2})(?:\.(\d{1,3}))?\]$/

/** The time that a word points to, as `[01:02.5]` does; null for what is spoken. */
export function linkedMs(text: string): number | null {
  const [, hours = '0', minutes, seconds, part = '0'] = TIME_LINK.exec(text) ?? []
  return seconds === undefined ? null : (Number(hours) * 60 + Number(minutes)) * 60_000 + Number(seconds) * 1000 + Number(`0.${part}`) * 1000
}

const paragraph = Paragraph.extend({
  addAttributes: () => ({
    speaker: { default: null, renderHTML: ({ speaker }) => ({ 'data-speaker': speaker }) },
    at: { default: null, renderHTML: ({ at }) => (at === null ? {} : { 'data-at': shortClock(at).slice(0, -2) }) },
  }),
})

const word = Mark.create({
  name: 'word',
  // What is typed behind a word is another word.
  inclusive: false,
  addAttributes: () => ({
    start: { default: 0, rendered: false },
    end: { default: 0, rendered: false },
    /** As it was when it got its confidence. */
    said: { default: '', renderHTML: ({ said }) => (linkedMs(said) === null ? {} : { class: 'time-link' }) },
    guessed: { default: false, rendered: false },
    confidence: {
      default: 1,
      renderHTML: ({ confidence }) =>
        confidence < DOUBTFUL ? { class: confidence < DOUBTFUL / 2 ? 'doubtful very' : 'doubtful' } : {},
    },
  }),
  renderHTML: ({ HTMLAttributes }) => ['span', HTMLAttributes, 0],
})

const TAGS: Record<Style, string[]> = { italic: ['em', 'i'], bold: ['strong', 'b'], underline: ['u'], left_out: ['del'] }
const styles = MARKS.map((name) =>
  Mark.create({
    name,
    parseHTML: () => TAGS[name].map((tag) => ({ tag })),
    renderHTML: ({ HTMLAttributes }) => [TAGS[name][0]!, HTMLAttributes, 0],
  }),
)

export const extensions: Extensions = [Document, paragraph, Text, word, ...styles]

export function markOf(schema: Schema, { text, start_ms, end_ms, confidence, guessed }: Word): WordMark {
  return schema.marks.word!.create({ start: start_ms, end: end_ms, confidence, said: text, guessed })
}

/** The marks of a word: when it was spoken, and its styles. */
export function marksOf(schema: Schema, said: Word): WordMark[] {
  return [markOf(schema, said), ...MARKS.filter((style) => said[style]).map((style) => schema.marks[style]!.create())]
}

/** Words as paragraphs; the first begins one, whether it says so or not. */
export function paragraphsOf(schema: Schema, words: readonly Word[]): Node[] {
  const found: Node[] = []
  let first = 0
  words.forEach((_, index) => {
    if (index + 1 < words.length && !words[index + 1]!.begins) return
    const own = words.slice(first, index + 1)
    const texts = own.flatMap((said, i) => [...(i ? [schema.text(' ')] : []), schema.text(said.text, marksOf(schema, said))])
    found.push(schema.nodes.paragraph!.create({ speaker: own[0]!.speaker, at: own[0]!.start_ms }, Fragment.from(texts)))
    first = index + 1
  })
  return found
}

const known = new WeakMap<Node, readonly Token[]>()

/** The words of a paragraph; one that was changed keeps the mark of its first part that has one. */
export function tokensOf(node: Node): readonly Token[] {
  const cached = known.get(node)
  if (cached) return cached
  const found: Token[] = []
  let whole = false
  node.forEach((child, offset) => {
    const mark = child.marks.find((candidate) => candidate.type.name === 'word') ?? null
    for (const { 0: text, index } of (child.text ?? ' ').matchAll(/\s+|\S+/g)) {
      const from = offset + index
      const last = found.at(-1)
      if (!text.trim()) whole = true
      else if (last && !whole) {
        last.text += text
        last.to = from + text.length
        last.mark ??= mark
      } else {
        const own = child.marks.filter(({ type }) => (MARKS as readonly string[]).includes(type.name))
        found.push({ text, from, to: from + text.length, mark, styles: own })
        whole = false
      }
    }
  })
  known.set(node, found)
  return found
}

/** What a paragraph says, as it is stored. A word that was written by hand is certain. */
export function writtenIn(node: Node): Written[] {
  return tokensOf(node).map(({ text, mark, styles }, index) => ({
    text,
    start_ms: mark?.attrs.start ?? null,
    end_ms: mark?.attrs.end ?? null,
    confidence: mark && mark.attrs.said === text ? mark.attrs.confidence : 1,
    speaker: node.attrs.speaker,
    begins: index === 0,
    guessed: mark?.attrs.guessed ?? false,
    ...(Object.fromEntries(MARKS.map((style) => [style, styles.some(({ type }) => type.name === style)])) as Record<Style, boolean>),
  }))
}
