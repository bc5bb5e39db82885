import { expect, it } from 'vitest'

import { andOnceMore, oneAtATime } from '@/kit/oneAtATime'

/** Work that ends when it is told to, and how often it began. */
function held() {
  const ends: (() => void)[] = []
  const work = () => new Promise<void>((resolve) => ends.push(resolve))
  return { work, begun: () => ends.length, end: () => ends.at(-1)!() }
}
const soon = () => new Promise((resolve) => setTimeout(resolve))

it('is not done twice at once', async () => {
  const { work, begun, end } = held()
  const run = oneAtATime(work)
  const both = [run(), run()]
  expect(begun()).toBe(1)
  end()
  await Promise.all(both)
  void run()
  expect(begun()).toBe(2)
})

it('is done once more, however often it was asked for meanwhile', async () => {
  const { work, begun, end } = held()
  const run = andOnceMore(work)
  const asked = [run(), run(), run()]
  expect(begun()).toBe(1)
  end()
  await soon()
  expect(begun()).toBe(2)
  end()
  await Promise.all(asked)
  expect(begun()).toBe(2)
})

it('is done anew after it failed', async () => {
  let times = 0
  const run = andOnceMore(() => (++times === 1 ? Promise.reject(new Error('no')) : Promise.resolve()))
  await expect(run()).rejects.toThrow('no')
  await run()
  expect(times).toBe(2)
})
