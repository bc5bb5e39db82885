/** What is done to the document of the transcript: each function gives a transaction, for the editor to carry out. */
import type { Node } from '@tiptap/pm/model'
import type { EditorState, Transaction } from '@tiptap/pm/state'

import type { Word } from '@/api/client'
import { changeBetween } from '@/kit/documents'
import { type Spoken, wordAt, wordsIn } from '@/stages/transcribe/transcript/spokenWords'
import { markOf, marksOf, tokensOf } from '@/stages/transcribe/transcript/transcriptDocument'

/** Makes these the paragraphs of the document; those that are so already are not touched, nor a cursor in them. */
export function paragraphsReplaced(state: EditorState, paragraphs: readonly Node[]): Transaction {
  const { doc, tr, schema } = state
  const parts = paragraphs.length ? paragraphs : [schema.nodes.paragraph!.create()]
  const change = changeBetween(doc.children, parts)
  if (!change) return tr
  const size = (nodes: readonly Node[]) => nodes.reduce((sum, node) => sum + node.nodeSize, 0)
  const from = size(parts.slice(0, change.first))
  const to = doc.content.size - size(parts.slice(parts.length - change.kept))
  tr.replaceWith(from, to, parts.slice(change.first, parts.length - change.kept))
  return tr
}

/** Marks words with the times that they got. */
export function timesTaken(state: EditorState, first: number, put: readonly Node[], words: readonly Word[]): Transaction {
  const { tr, schema, doc } = state
  let at = doc.children.slice(0, first).reduce((sum, node) => sum + node.nodeSize, 0)
  let index = 0
  for (const node of put) {
    const tokens = tokensOf(node)
    const start = words[index]?.start_ms ?? null
    if (tokens.length && node.attrs.at !== start) tr.setNodeAttribute(at, 'at', start)
    for (const token of tokens) {
      const mark = markOf(schema, words[index++]!)
      if (token.mark?.eq(mark)) continue
      tr.removeMark(at + 1 + token.from, at + 1 + token.to, schema.marks.word).addMark(at + 1 + token.from, at + 1 + token.to, mark)
    }
    at += node.nodeSize
  }
  return tr
}

/** Puts text in the place of what is selected, apart from the words around it. */
export function textPut(state: EditorState, text: string): Transaction {
  const { from, to, $from, $to } = state.selection
  const apart = (beside: string) => (beside && !/^\s$/.test(beside) ? ' ' : '')
  const before = apart($from.parent.textBetween(Math.max($from.parentOffset - 1, 0), $from.parentOffset))
  const after = apart($to.parent.textBetween($to.parentOffset, Math.min($to.parentOffset + 1, $to.parent.content.size)))
  return state.tr.replaceWith(from, to, state.schema.text(before + text + after)).scrollIntoView()
}

/** Writes in the place of words, by their order in the transcript; as one step of undo. */
export function wordsPut(state: EditorState, changes: readonly { first: number; count: number; put: string }[]): Transaction {
  const { doc, tr, schema } = state
  const places = wordsIn(doc)
  // From the end on, so that what comes before stays in its place.
  for (const { first, count, put } of changes.toSorted((a, b) => b.first - a.first)) {
    const own = places.slice(first, first + count)
    const texts = put.split(' ')
    if (own.length < count) continue
    if (texts.length === count) {
      for (let i = count - 1; i >= 0; i--) {
        const { at, text, mark, styles } = own[i]!
        tr.replaceWith(at, at + text.length, schema.text(texts[i]!, mark ? [mark, ...styles] : styles))
      }
    } else {
      const last = own.at(-1)!
      // As many words as the time of those is shared by.
      tr.replaceWith(own[0]!.at, last.at + last.text.length, schema.text(put))
    }
  }
  return tr
}

/** Puts words as they were heard again in the place of others; each goes to the paragraph of its time. */
export function heardPut(state: EditorState, first: number, count: number, heard: readonly Word[]): Transaction {
  const { doc, tr, schema } = state
  const groups: Spoken[][] = []
  for (const word of wordsIn(doc).slice(first, first + count)) {
    const last = groups.at(-1)
    if (last && doc.resolve(last[0]!.at).sameParent(doc.resolve(word.at))) last.push(word)
    else groups.push([word])
  }
  const starts = groups.map((own) => own.find((word) => word.mark)?.mark!.attrs.start ?? 0)
  // From the end on, so that what comes before stays in its place.
  for (let i = groups.length - 1; i >= 0; i--) {
    const last = groups[i]!.at(-1)!
    const from = i ? starts[i]! : -Infinity
    const to = starts[i + 1] ?? Infinity
    const own = heard.filter(({ start_ms, end_ms }) => (start_ms + end_ms) / 2 >= from && (start_ms + end_ms) / 2 < to)
    const texts = own.flatMap((word, n) => [...(n ? [schema.text(' ')] : []), schema.text(word.text, marksOf(schema, word))])
    tr.replaceWith(groups[i]![0]!.at, last.at + last.text.length, texts)
  }
  return tr
}

/** Says who speaks in the paragraph at a time, or from it on until somebody else does. */
export function speakerSet(state: EditorState, atMs: number, speaker: string | null, onwards = false): Transaction {
  const { doc, tr } = state
  const here = wordAt(doc, atMs)?.at ?? 1
  let was: string | null = null
  let goesOn = false
  doc.forEach((node, offset) => {
    const holds = here > offset && here < offset + node.nodeSize
    if (holds) {
      was = node.attrs.speaker
      goesOn = onwards
    } else if (node.attrs.speaker !== was) {
      goesOn = false
    }
    if (holds || goesOn) tr.setNodeAttribute(offset, 'speaker', speaker)
  })
  return tr
}

/** Says who speaks which words, by their order; a paragraph begins where another does. One step of undo. */
export function speakersSet(state: EditorState, passages: readonly { first: number; count: number; speaker: string }[]): Transaction {
  const { doc, tr } = state
  const places = wordsIn(doc)
  // From the end on, so that what comes before stays in its place.
  for (let i = passages.length - 1; i >= 0; i--) {
    const { first, speaker } = passages[i]!
    const word = places[first]
    if (!word) continue
    const $word = tr.doc.resolve(word.at)
    const begins = !tr.doc.textBetween($word.start(), word.at).trim()
    if (!begins && speaker === passages[i - 1]?.speaker) continue
    if (begins) {
      tr.setNodeAttribute($word.before(), 'speaker', speaker)
      continue
    }
    tr.delete(word.at - 1, word.at).split(word.at - 1)
    tr.setNodeAttribute(word.at, 'speaker', speaker).setNodeAttribute(word.at, 'at', word.mark?.attrs.start ?? null)
  }
  return tr
}
