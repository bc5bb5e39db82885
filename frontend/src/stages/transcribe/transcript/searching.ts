/** Looking for words in the transcript's document. */
import type { Node } from '@tiptap/pm/model'

export interface FindOptions {
  /** Whole words only. */
  word: boolean
  /** Upper and lower case as they are typed. */
  exact: boolean
  /** What is sought is a regular expression. */
  pattern: boolean
}

/** A place of the document where what is sought stands. */
export interface Found {
  from: number
  to: number
  text: string
}

const literal = (text: string) => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')

/** What is sought, as an expression; or what is wrong with it, in words; '' for nothing. */
export function pattern(sought: string, options: FindOptions): RegExp | string {
  if (!sought) return ''
  const body = options.pattern ? sought : literal(sought)
  // A boundary of letters of any script, not only of Latin ones.
  const whole = options.word ? `(?<![\\p{L}\\p{N}])(?:${body})(?![\\p{L}\\p{N}])` : body
  try {
    return new RegExp(whole, options.exact ? 'gu' : 'giu')
  } catch (problem) {
    return (problem as Error).message
  }
}

/** All places, in their order; none goes over the end of a paragraph. */
export function foundIn(doc: Node, wanted: RegExp): Found[] {
  const found: Found[] = []
  doc.forEach((node, offset) => {
    for (const { 0: text, index } of node.textContent.matchAll(wanted)) {
      if (text) found.push({ from: offset + 1 + index, to: offset + 1 + index + text.length, text })
    }
  })
  return found
}
