import { beforeEach, expect, test, vi } from 'vitest'

import { client } from '@/api/client'
import { askedEarly, askEarly, lastColumns } from '@/stages/style/specimens'

const get = vi.spyOn(client, 'GET')

beforeEach(() => {
  get.mockReset()
  get.mockResolvedValue({ data: { names: ['Sign'], script: 'x' }, response: new Response() } as never)
  lastColumns.value = 2
  void askedEarly('', 0)
})

test('what was asked for early is told once', async () => {
  askEarly('t')
  expect((await askedEarly('t', 2))?.names).toEqual(['Sign'])
  expect(askedEarly('t', 2)).toBeNull()
  expect(get).toHaveBeenCalledTimes(1)
})

test('it is told only for the track and the columns that it is of', () => {
  askEarly('t')
  expect(askedEarly('t', 3)).toBeNull()
  askEarly('t')
  expect(askedEarly('other', 2)).toBeNull()
})

test('nothing is asked before it is known how they stand', () => {
  lastColumns.value = 0
  askEarly('t')
  expect(askedEarly('t', 0)).toBeNull()
  expect(get).not.toHaveBeenCalled()
})

test('a server that does not answer is none of an answer', async () => {
  get.mockRejectedValue(new TypeError('gone'))
  askEarly('t')
  expect(await askedEarly('t', 2)).toBeNull()
})

test('a hand that came and presses asks once', async () => {
  askEarly('t')
  askEarly('t')
  await askedEarly('t', 2)
  expect(get).toHaveBeenCalledTimes(1)
})

test('what was asked for long ago is not shown, and is asked for again', () => {
  vi.useFakeTimers()
  askEarly('t')
  vi.advanceTimersByTime(5000)
  askEarly('t')
  expect(get).toHaveBeenCalledTimes(2)
  vi.advanceTimersByTime(5000)
  expect(askedEarly('t', 2)).toBeNull()
  vi.useRealTimers()
})
