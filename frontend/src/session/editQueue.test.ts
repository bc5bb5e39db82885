import { describe, expect, test } from 'vitest'

import { EditQueue, type Waiting } from '@/session/editQueue'

class Final extends Error {}

/** A server that answers as it is told, and what came of it. */
function setUp(...outcomes: (Error | null)[]) {
  const sent: { edit: string; key: string }[] = []
  const took: string[] = []
  const refused: string[] = []
  const states: string[] = []
  let keys = 0
  const pauses: (() => void)[] = []
  const queue: EditQueue<string, string> = new EditQueue<string, string>({
    send: async ({ edit, key }: Waiting<string>) => {
      sent.push({ edit, key })
      const outcome = outcomes.shift()
      await Promise.resolve()
      if (outcome) throw outcome
      return `${edit} stored`
    },
    took: (answer) => void took.push(answer),
    isFinal: (problem) => problem instanceof Final,
    refused: (_, { edit }) => void refused.push(edit),
    joined: (next) => next,
    changed: () => void states.push(queue.saving),
    pause: () => new Promise((resolve) => pauses.push(resolve)),
    newKey: () => `key ${keys++}`,
  })
  return { queue, sent, took, refused, states, goOn: () => pauses.splice(0).forEach((resolve) => resolve()) }
}

const soon = () => new Promise((resolve) => setTimeout(resolve))

describe('the queue of edits', () => {
  test('sends them in their order and says when all is stored', async () => {
    const { queue, took, states } = setUp()
    void queue.push('one', 'a')
    await queue.push('two', 'b')
    expect(took).toEqual(['one stored', 'two stored'])
    expect(queue.saving).toBe('saved')
    expect(states[0]).toBe('saving')
  })

  test('an edit that goes on takes the place of one that waits, and of none that was sent', async () => {
    const { queue, sent } = setUp()
    void queue.push('t', 'typing')
    void queue.push('ty', 'typing')
    await queue.push('typ', 'typing')
    expect(sent.map(({ edit }) => edit)).toEqual(['t', 'typ'])
  })

  test('what gets no answer stays unsaved and is sent again under its name until it is stored', async () => {
    const { queue, sent, took, goOn } = setUp(new Error('disk full'), new Error('no network'))
    void queue.push('word', 'a')
    await soon()
    expect([queue.saving, queue.problem, queue.waiting.length]).toEqual(['waiting', 'disk full', 1])
    // What is done meanwhile waits behind it; it may have been stored, so nothing takes its place.
    void queue.push('words', 'a')
    goOn()
    await soon()
    expect(queue.problem).toBe('no network')
    goOn()
    await queue.settled()
    expect(sent.map(({ edit, key }) => `${edit} ${key}`)).toEqual(['word key 0', 'word key 0', 'word key 0', 'words key 1'])
    expect(took).toEqual(['word stored', 'words stored'])
    expect([queue.saving, queue.problem]).toEqual(['saved', ''])
  })

  test('what is refused for good is handed back, and the next one is sent', async () => {
    const { queue, took, refused } = setUp(new Final('changed'))
    void queue.push('one', 'a')
    await queue.push('two', 'b')
    expect(refused).toEqual(['one'])
    expect(took).toEqual(['two stored'])
  })
})
