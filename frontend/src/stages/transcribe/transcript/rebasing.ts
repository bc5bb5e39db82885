/** Two windows write in one transcript: what was written of an older one is put where it belongs in the newer. */
import type { Node, Schema } from '@tiptap/pm/model'

import type { Word } from '@/api/client'
import { alikeEnds } from '@/kit/ordered'
import { paragraphsOf, tokensOf } from '@/stages/transcribe/transcript/transcriptDocument'

const same = (one: Word, other: Word) =>
  one === other || (Object.keys(one) as (keyof Word)[]).every((key) => one[key] === other[key])

/** The paragraphs of a newer transcript; those whose words are the same as in the old one are the very same nodes. */
export function paragraphsAfter(schema: Schema, paragraphs: readonly Node[], old: readonly Word[], now: readonly Word[]): readonly Node[] {
  const { first, kept } = alikeEnds(old, now, same)
  if (first === old.length && first === now.length) return paragraphs
  const count = (index: number) => tokensOf(paragraphs[index]!).length
  let [from, before] = [0, 0]
  while (from < paragraphs.length && before + count(from) <= first) before += count(from++)
  // A paragraph that other words follow now goes on with them.
  while (from > 0 && now[before]?.begins === false) before -= count(--from)
  let [to, after] = [paragraphs.length, 0]
  while (to > from && after + count(to - 1) <= kept) after += count(--to)
  return [...paragraphs.slice(0, from), ...paragraphsOf(schema, now.slice(before, now.length - after)), ...paragraphs.slice(to)]
}

/** Where `count` paragraphs from `first` on stand among newer ones; null when they are others there. */
export function movedTo(first: number, count: number, old: readonly Node[], now: readonly Node[]): number | null {
  if (!old.length) return 0
  // What is put between two paragraphs follows the one before it.
  const sought = count ? old.slice(first, first + count) : old.slice(Math.max(first - 1, 0), Math.max(first, 1))
  const at = now.findIndex((_, index) => sought.every((node, n) => now[index + n]?.eq(node)))
  if (at < 0) return null
  return count || !first ? at : at + 1
}

/** The words that are written in paragraphs put in the place of others, from the first that is new to the last. */
export function newWords(gone: readonly Node[], put: readonly Node[]): string {
  const texts = (nodes: readonly Node[]) => nodes.flatMap(tokensOf).map(({ text }) => text)
  const now = texts(put)
  const { first, kept } = alikeEnds(texts(gone), now, (one, other) => one === other)
  return now.slice(first, now.length - kept).join(' ')
}
