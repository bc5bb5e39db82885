import { expect, it } from 'vitest'

import type { Caption } from '@/session/captions'
import { atTheSameTime } from '@/stages/translate/usePivot'

const caption = (id: string, in_ms: number, out_ms: number) => ({ id, in_ms, out_ms }) as Caption

it('finds what shares half of its time or more', () => {
  const captions = [caption('a', 0, 1000), caption('b', 1000, 2000), caption('long', 2000, 9000), caption('c', 9100, 9900)]
  const found = (in_ms: number, out_ms: number) => atTheSameTime({ in_ms, out_ms }, captions, 7000).map(({ id }) => id)
  expect(found(0, 1900)).toEqual(['a', 'b'])
  expect(found(600, 1400)).toEqual(['a', 'b'])
  expect(found(400, 1300)).toEqual(['a'])
  expect(found(3000, 4000)).toEqual(['long'])
  expect(found(9000, 9100)).toEqual([])
})
