import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'

import { client } from '@/api/client'
import { useTracks } from '@/session/tracksStore'
import { useShort } from '@/stages/style/short/shortStore'

const cut = (amount: number) => ({ look: 'Ferry', rhythm: { by: 'amount', amount }, examples: [], tight: [], offered: [] })

describe('how a track is cut', () => {
  let answers: ((of: unknown) => void)[]

  beforeEach(() => {
    setActivePinia(createPinia())
    useTracks().currentId = 't'
    answers = []
    vi.spyOn(client, 'GET').mockImplementation((() => new Promise((resolve) => answers.push((data) => resolve({ data, response: new Response() })))) as never)
  })

  it('is what was read last, whichever answer comes last', async () => {
    const short = useShort()
    const [before, after] = [short.read(), short.read()]
    answers[1]!(cut(4))
    await after
    answers[0]!(cut(5))
    await before
    expect(short.state!.rhythm.amount).toBe(4)
  })

  it('is there when a reading ends, also where another was begun meanwhile', async () => {
    const short = useShort()
    let ended = false
    const first = short.read().then(() => (ended = true))
    const second = short.read()
    answers[0]!(cut(5))
    await new Promise((resolve) => setTimeout(resolve))
    expect(ended).toBe(false)
    answers[1]!(cut(4))
    await Promise.all([first, second])
    expect(short.state!.rhythm.amount).toBe(4)
  })
})
