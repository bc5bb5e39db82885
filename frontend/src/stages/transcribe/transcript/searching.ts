/** Looking for words in the transcript's document, by the server's rules. */
import type { Node } from '@tiptap/pm/model'

import { answered, client, type Schemas } from '@/api/client'
import { unitAt } from '@/kit/characters'

export type Sought = Omit<Schemas['MatchRequest'], 'texts'>

/** A place of the document where what is sought stands, and what would stand there. */
export interface Found {
  from: number
  to: number
  put: string
}

/**
 * All places, in their order; none goes over the end of a paragraph.
 * @throws Refused with what is wrong with a pattern
 */
export async function foundIn(doc: Node, sought: Sought): Promise<Found[]> {
  const texts = doc.children.map((node) => node.textContent)
  const { matches } = await answered(client.POST('/api/matches', { body: { ...sought, texts } }))
  const starts: number[] = []
  doc.forEach((_, offset) => starts.push(offset + 1))
  return matches.map(({ text, start, end, put }) => ({
    from: starts[text]! + unitAt(texts[text]!, start),
    to: starts[text]! + unitAt(texts[text]!, end),
    put,
  }))
}
