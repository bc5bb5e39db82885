import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'

import { client } from '@/api/client'
import { useMaking } from '@/stages/transcribe/making/makingStore'

const seen = (text: string) => ({
  revision: 1, words_revision: 1, rules: [], gone: [1],
  captions: [{ in_ms: 0, out_ms: 900, text, rules: [], change: 0, goes: false }],
})

describe('captions that would be made', () => {
  let answers: ((of: unknown) => void)[]
  let posted: string[]

  beforeEach(() => {
    setActivePinia(createPinia())
    answers = []
    posted = []
    vi.spyOn(client, 'POST').mockImplementation(((path: string) => {
      posted.push(path.split('/').at(-1)!)
      return new Promise((resolve) => answers.push((data) => resolve({ data, response: new Response() })))
    }) as never)
  })

  const asked = (count: number) => vi.waitFor(() => expect(answers).toHaveLength(count))

  it('cannot be accepted from the moment that something changes until they are seen anew', async () => {
    const making = useMaking()
    const first = making.look()
    await asked(1)
    answers[0]!(seen('one way'))
    await first
    expect([making.outdated, making.preview!.captions[0]!.text]).toEqual([false, 'one way'])
    const second = making.look()
    expect(making.outdated).toBe(true)
    expect(await making.accept()).toBe(false)
    await asked(2)
    answers[1]!(seen('another way'))
    await second
    expect([making.outdated, making.preview!.captions[0]!.text]).toEqual([false, 'another way'])
    expect(posted).toEqual(['preview', 'preview'])
  })

  it('are not seen as an answer says that was asked for before the last change', async () => {
    const making = useMaking()
    void making.look()
    await asked(1)
    const second = making.look()
    answers[0]!(seen('one way'))
    await asked(2)
    expect([making.outdated, making.preview]).toEqual([true, null])
    answers[1]!(seen('another way'))
    await second
    expect(making.preview!.captions[0]!.text).toBe('another way')
  })

  it('are nothing when the page is opened anew, where they may be of another track', async () => {
    const making = useMaking()
    const first = making.look()
    await asked(1)
    answers[0]!(seen('one way'))
    await first
    making.begin()
    expect([making.outdated, making.preview]).toEqual([true, null])
  })
})
