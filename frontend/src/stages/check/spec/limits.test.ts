import { expect, it } from 'vitest'

import { limitTyped } from '@/stages/check/spec/limits'

const FILM = { numerator: 24, denominator: 1 }

it.each([
  ['1200', 'ms', 1200],
  ['1.2 s', 'ms', 1200],
  ['1,2s', 'ms', 1200],
  ['20 frames', 'ms', 833],
  ['5/6 s', 'ms', 833],
  ['5/6', 'ms', 833],
  ['2', 'frames', 2],
  ['0.5 s', 'frames', 12],
  ['80 ms', 'frames', 2],
  ['16.5', 'cps', 16.5],
  ['soon', 'ms', null],
  ['', 'cps', null],
  ['2 s', 'cps', null],
  ['1/0 s', 'ms', null],
])('%s typed for %s is %s', (text, unit, value) => {
  expect(limitTyped(text, unit, FILM)).toBe(value)
})
