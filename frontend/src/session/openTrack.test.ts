import { beforeEach, describe, expect, it, vi } from 'vitest'

import { client, type EditView, type TrackView } from '@/api/client'
import { openTrack } from '@/session/openTrack'

const caption = (id: string, text: string) => ({ id, in_ms: 0, out_ms: 900, spans: [{ text }], findings: [] })
const read = (revision: number, texts: Record<string, string>, whole = true) => ({
  data: {
    id: 't', revision, whole, captions: Object.entries(texts).map(([id, text]) => caption(id, text)),
    script_head: '', spec: null, can_undo: false, can_redo: false,
  } as unknown as TrackView,
  response: new Response(),
})
const told = (base: number, revision: number, texts: Record<string, string>) =>
  ({
    track_id: 't', base, revision, actor: 'other', captions: Object.entries(texts).map(([id, text]) => caption(id, text)),
    further: [], removed: [], touched: [], targets: [],
  }) as unknown as EditView

describe('a track that is opened', () => {
  let answers: ((of: unknown) => void)[]
  const asked: (number | undefined)[] = []

  beforeEach(() => {
    answers = []
    asked.length = 0
    vi.spyOn(client, 'GET').mockImplementation(((_: string, { params }: { params: { query: { most?: number } } }) => {
      asked.push(params.query.most)
      return new Promise((resolve) => answers.push(resolve))
    }) as never)
  })

  const texts = (track: ReturnType<typeof openTrack>) => track.captions.value.map(({ spans }) => spans[0]!.text)
  const given = async (number: number) => await vi.waitFor(() => expect(answers).toHaveLength(number))

  it('shows its first captions until the others are there', async () => {
    const track = openTrack('t', () => {})
    const opened = track.reload()
    answers[0]!(read(1, { a: 'first' }, false))
    await given(2)
    expect([texts(track), track.loaded.value]).toEqual([['first'], false])
    answers[1]!(read(1, { a: 'first', b: 'second' }))
    await opened
    expect([texts(track), track.loaded.value]).toEqual([['first', 'second'], true])
    expect(asked).toEqual([100, undefined])
  })

  it('is read once where the first captions are all', async () => {
    const track = openTrack('t', () => {})
    const opened = track.reload()
    answers[0]!(read(1, { a: 'first' }))
    await opened
    expect([texts(track), track.loaded.value, asked]).toEqual([['first'], true, [100]])
  })

  it('is read anew where another window changed it while it was read', async () => {
    const track = openTrack('t', () => {})
    const opened = track.reload()
    answers[0]!(read(1, { a: 'first' }, false))
    await given(2)
    await track.happened(told(1, 2, { a: 'changed' }))
    answers[1]!(read(1, { a: 'first', b: 'second' }))
    await given(3)
    answers[2]!(read(2, { a: 'changed' }, false))
    await given(4)
    answers[3]!(read(2, { a: 'changed', b: 'second' }))
    await opened
    expect(texts(track)).toEqual(['changed', 'second'])
  })
})
