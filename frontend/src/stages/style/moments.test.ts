import { expect, test } from 'vitest'

import { momentBeside, saidAt, valuesAt, withMoment, withoutMoment } from '@/stages/style/moments'

const two = [{ at_ms: 0, x: 0.2, y: 0.5 }, { at_ms: 1000, x: 0.6, y: 0.5 }]

test('without moments, values are said of all of its time', () => {
  expect(valuesAt(null, { x: 0.3, turn: 5 }, 400)).toEqual({ x: 0.3, turn: 5 })
})

test('with moments, what can change in between is said of the moment at the time, and the rest of all of it', () => {
  expect(valuesAt(two, { x: 0.3, turn: 5, weight: 900 }, 400)).toEqual({ weight: 900, moments: [two[0], { at_ms: 400, x: 0.3, turn: 5 }, two[1]] })
  expect(valuesAt(two, { x: 0.3 }, 1000)).toEqual({ moments: [two[0], { at_ms: 1000, x: 0.3, y: 0.5 }] })
  expect(valuesAt(two, { weight: 900 }, 400)).toEqual({ weight: 900 })
})

test('what is given back is given back by all moments, and a moment that says nothing more is none', () => {
  expect(valuesAt(two, { x: null }, 400)).toEqual({ x: null, moments: [{ at_ms: 0, x: null, y: 0.5 }, { at_ms: 1000, x: null, y: 0.5 }] })
  expect(valuesAt([{ at_ms: 0, turn: 4 }], { turn: null }, 0)).toEqual({ turn: null, moments: null })
  expect(withoutMoment([two[0]!], 0)).toBeNull()
})

test('a moment tells what it says', () => {
  expect(saidAt(two, 1000)).toEqual({ x: 0.6, y: 0.5 })
  expect(saidAt(two, 500)).toEqual({})
})

test('moments are found before and after a time', () => {
  expect(momentBeside(two, 0, 1)).toBe(two[1])
  expect(momentBeside(two, 500, -1)).toBe(two[0])
  expect(momentBeside(two, 1000, 1)).toBeUndefined()
  expect(withMoment(two, 500, { turn: 3 })).toHaveLength(3)
})
