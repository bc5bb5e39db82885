/** The words of the transcript as the document has them: where they stand, and when they are spoken. */
import type { Node } from '@tiptap/pm/model'

import { firstIndex } from '@/kit/ordered'
import { type Token, tokensOf } from '@/stages/transcribe/transcript/transcriptDocument'

export interface Spoken extends Token {
  /** Position in the document. */
  at: number
}

/** All words of a document, in their order. */
export function wordsIn(doc: Node): Spoken[] {
  const words: Spoken[] = []
  doc.forEach((node, offset) => {
    for (const token of tokensOf(node)) words.push({ ...token, at: offset + 1 + token.from })
  })
  return words
}

export const startOf = (word: Spoken): number => word.mark!.attrs.start
export const endOf = (word: Spoken): number => word.mark!.attrs.end

let listed: { doc: Node; words: readonly Spoken[] } | null = null

/** All words that have a time, in their order. A document is gone through once. */
export function spokenIn(doc: Node): readonly Spoken[] {
  if (listed?.doc !== doc) listed = { doc, words: wordsIn(doc).filter((word) => word.mark) }
  return listed.words
}

/** The word that is spoken at a time, or was last. */
export function wordAt(doc: Node, ms: number): Spoken | null {
  const words = spokenIn(doc)
  return words[firstIndex(words, startOf, ms + 0.5) - 1] ?? null
}

/** When the word at a place of the document is spoken; the nearest one before it that knows. */
export function timeAt(doc: Node, position: number): number | null {
  const words = spokenIn(doc)
  const word = words[firstIndex(words, (candidate) => candidate.at, position + 1) - 1] ?? words[0]
  return word ? startOf(word) : null
}
