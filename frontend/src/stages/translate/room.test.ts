import { expect, test } from 'vitest'

import type { Caption } from '@/session/captions'
import { charactersLeft } from '@/stages/translate/room'

const caption = (characters: number, ms: number) =>
  ({ in_ms: 1000, out_ms: 1000 + ms, measures: { reading_speed: (characters * 1000) / ms, duration_ms: ms } }) as Caption

test('what is left is what fits its time, less what is there', () => {
  expect(charactersLeft(caption(30, 2000), 17)).toBe(4)
  expect(charactersLeft(caption(34, 2000), 17)).toBe(0)
  expect(charactersLeft(caption(39, 2000), 17)).toBe(-5)
  expect(charactersLeft(caption(0, 2000), 17)).toBe(34)
})

test('without a limit nothing is left or lacking', () => {
  expect(charactersLeft(caption(30, 2000), null)).toBeNull()
})
