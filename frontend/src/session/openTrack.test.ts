import { beforeEach, describe, expect, it, vi } from 'vitest'

import { client, type EditView } from '@/api/client'
import { openTrack } from '@/session/openTrack'

const caption = (id: string, text: string) => ({ id, in_ms: 0, out_ms: 900, spans: [{ text }], findings: [] })
/** An answer whose pieces come in when the test says so. */
function answer() {
  let coming!: ReadableStreamDefaultController<Uint8Array>
  const body = new ReadableStream<Uint8Array>({ start: (controller) => void (coming = controller) })
  const piece = (revision: number, texts: Record<string, string>) => ({
    id: 't', revision, captions: Object.entries(texts).map(([id, text]) => caption(id, text)),
    script_head: '', spec: null, can_undo: false, can_redo: false,
  })
  return {
    body,
    gives: (revision: number, texts: Record<string, string>) =>
      coming.enqueue(new TextEncoder().encode(`${JSON.stringify(piece(revision, texts))}\n`)),
    ends: () => coming.close(),
    breaks: () => coming.error(new Error('no network')),
  }
}

const told = (base: number, revision: number, texts: Record<string, string>) =>
  ({
    track_id: 't', base, revision, actor: 'other', captions: Object.entries(texts).map(([id, text]) => caption(id, text)),
    further: [], removed: [], touched: [], targets: [],
  }) as unknown as EditView

describe('a track that is opened', () => {
  let answers: ReturnType<typeof answer>[]

  beforeEach(() => {
    answers = []
    vi.spyOn(client, 'GET').mockImplementation((() => {
      answers.push(answer())
      return Promise.resolve({ data: answers.at(-1)!.body, response: new Response() })
    }) as never)
  })

  const texts = (track: ReturnType<typeof openTrack>) => track.captions.value.map(({ spans }) => spans[0]!.text)

  it('shows its first captions until the others are there', async () => {
    const track = openTrack('t', () => {})
    const opened = track.reload()
    answers[0]!.gives(1, { a: 'first' })
    await vi.waitFor(() => expect(texts(track)).toEqual(['first']))
    expect(track.loaded.value).toBe(false)
    answers[0]!.gives(1, { b: 'second' })
    answers[0]!.ends()
    await opened
    expect([texts(track), track.loaded.value, answers.length]).toEqual([['first', 'second'], true, 1])
  })

  it('is read anew where another window changed it while it was read', async () => {
    const track = openTrack('t', () => {})
    const opened = track.reload()
    answers[0]!.gives(1, { a: 'first' })
    await vi.waitFor(() => expect(texts(track)).toEqual(['first']))
    await track.happened(told(1, 2, { a: 'changed' }))
    answers[0]!.gives(1, { b: 'second' })
    answers[0]!.ends()
    await vi.waitFor(() => expect(answers).toHaveLength(2))
    answers[1]!.gives(2, { a: 'changed', b: 'second' })
    answers[1]!.ends()
    await opened
    expect(texts(track)).toEqual(['changed', 'second'])
  })

  it('is not taken for whole where its answer breaks off', async () => {
    const track = openTrack('t', () => {})
    const opened = track.reload()
    answers[0]!.gives(1, { a: 'first' })
    await vi.waitFor(() => expect(texts(track)).toEqual(['first']))
    answers[0]!.breaks()
    await expect(opened).rejects.toMatchObject({ status: 0 })
    expect(track.loaded.value).toBe(false)
  })
})
