import { afterEach, beforeEach, expect, it, vi } from 'vitest'

import { Refused } from '@/api/client'
import { problemOfAll, savingOfAll, storedEdits, waitingOfAll } from '@/session/storedEdits'

beforeEach(() => void vi.useFakeTimers())
afterEach(() => void vi.useRealTimers())

/** A store that sends to a server, which answers as it is told to. */
function store(answer: () => Promise<string>) {
  const refused: unknown[] = []
  const { queue } = storedEdits<string, string>({
    send: answer,
    took: () => undefined,
    refused: (why) => void refused.push(why),
    joined: () => null,
  })
  return { queue, refused }
}

it('tells of all stores how far what was done is stored', async () => {
  let isThere = false
  const reached = store(() => Promise.resolve(''))
  const unreached = store(() => (isThere ? Promise.resolve('') : Promise.reject(new Refused('No answer', 0))))
  expect([savingOfAll.value, waitingOfAll.value]).toEqual(['saved', 0])
  const ends = [reached.queue.push('a', '1'), unreached.queue.push('b', '2')]
  expect(savingOfAll.value).toBe('saving')
  await vi.advanceTimersByTimeAsync(10)
  expect([savingOfAll.value, waitingOfAll.value, problemOfAll.value]).toEqual(['waiting', 1, 'No answer'])
  void unreached.queue.push('c', '3')
  await vi.advanceTimersByTimeAsync(1600)
  expect([savingOfAll.value, waitingOfAll.value]).toEqual(['waiting', 2])
  isThere = true
  await vi.advanceTimersByTimeAsync(1600)
  await Promise.all(ends)
  expect([savingOfAll.value, waitingOfAll.value, problemOfAll.value]).toEqual(['saved', 0, ''])
})

it('hands back what is refused for good, and waits for nothing', async () => {
  const { queue, refused } = store(() => Promise.reject(new Refused('Changed meanwhile', 409)))
  await queue.push('a', '1')
  expect(refused).toHaveLength(1)
  expect(savingOfAll.value).toBe('saved')
})
