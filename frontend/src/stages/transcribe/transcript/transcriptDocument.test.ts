import { getSchema } from '@tiptap/core'
import type { Node } from '@tiptap/pm/model'
import { EditorState } from '@tiptap/pm/state'
import { describe, expect, it } from 'vitest'

import type { Word } from '@/api/client'
import { changeBetween } from '@/kit/documents'
import { extensions, paragraphsOf, tokensOf, writtenIn } from '@/stages/transcribe/transcript/transcriptDocument'

const schema = getSchema(extensions)
const word = (text: string, start_ms: number, begins = false, confidence = 0.4): Word => ({
  text, start_ms, end_ms: start_ms + 100, confidence, speaker: null, begins, guessed: false, italic: false, bold: false, underline: false, left_out: false,
})
const WORDS = [word('Ring', 0, true), word('the', 200), word('vell.', 400), word('Loud.', 3000, true)]
const between = (old: Node, now: Node) => changeBetween(old.children, now.children)
const state = () => EditorState.create({ doc: schema.nodes.doc!.create(null, paragraphsOf(schema, WORDS)) })
const written = (now: EditorState) => {
  const found: unknown[] = []
  now.doc.forEach((node) => found.push(...writtenIn(node).map(({ text, start_ms, confidence }) => [text, start_ms, confidence])))
  return found
}

describe('the transcript as a document', () => {
  it('gives back the words it was made of', () => {
    const { doc } = state()
    expect(doc.childCount).toBe(2)
    const words: unknown[] = []
    doc.forEach((node) => words.push(...writtenIn(node)))
    expect(words).toEqual(WORDS)
  })

  it('gives back the styles of words', () => {
    const styled = [{ ...word('The', 0, true), italic: true }, { ...word('Marigold', 200), italic: true, bold: true }, word('sank.', 400)]
    const [paragraph] = paragraphsOf(schema, styled)
    expect(writtenIn(paragraph!)).toEqual(styled)
  })

  it('keeps the time of a word that is put right, and is certain of it', () => {
    const now = state()
    const at = 1 + tokensOf(now.doc.child(0))[2]!.from
    const put = now.apply(now.tr.insertText('b', at, at + 1))
    expect(written(put)[2]).toEqual(['bell.', 400, 1])
    expect(written(put)[1]).toEqual(['the', 200, 0.4])
  })

  it('has no time for a word that was not spoken', () => {
    const now = state()
    const end = 1 + tokensOf(now.doc.child(0))[0]!.to
    expect(written(now.apply(now.tr.insertText(' loud', end)))[1]).toEqual(['loud', null, 1])
  })

  it('gives both parts of a word the time of the whole', () => {
    const now = state()
    expect(written(now.apply(now.tr.insertText(' ', 3))).slice(0, 2)).toEqual([['Ri', 0, 1], ['ng', 0, 1]])
  })

  it('knows which paragraphs are others', () => {
    const now = state()
    expect(between(now.doc, now.doc)).toBeNull()
    expect(between(now.doc, now.apply(now.tr.insertText('x', 2)).doc)).toEqual({ first: 0, kept: 1 })
    expect(between(now.doc, now.apply(now.tr.split(6)).doc)).toEqual({ first: 0, kept: 1 })
    const joined = now.apply(now.tr.join(now.doc.child(0).nodeSize)).doc
    expect(between(now.doc, joined)).toEqual({ first: 0, kept: 0 })
    expect(between(joined, now.doc)).toEqual({ first: 0, kept: 0 })
  })
})
