import { expect, test } from 'vitest'

import type { Caption } from '@/session/captions'
import { NUMBERS, shownNumber, storedNumber } from '@/stages/style/properties'
import { changeOf, wordsWith } from '@/stages/style/setting'
import { lookWith } from '@/styling/looks'

const span = (text: string, values = {}) => ({ text, italic: false, bold: false, underline: false, colour: null, extras: [], ...values })
const caption = (values = {}) => ({ id: 'a', spans: [span('FOG SIGNAL')], placement: null, look: null, case: null, ...values }) as unknown as Caption
const now = { anchor: 'bottom', align: 'center', size: 0.07 } as const

test('what is given back is said no more', () => {
  expect(lookWith({ size: 0.1, turn: 5 }, { size: null })).toEqual({ turn: 5 })
  expect(lookWith({ size: 0.1 }, { size: null })).toBeNull()
})

test('a caption says its look, its place and its case each where they are kept', () => {
  expect(changeOf(caption(), now, { size: 0.1, case: 'upper' })).toEqual({ look: { size: 0.1 }, case: 'upper' })
  expect(changeOf(caption(), now, { x: 0.25, y: 0.5 })).toEqual({
    placement: { anchor: 'bottom', align: 'center', x: 0.25, y: 0.5, width: null, vertical: null },
  })
  expect(changeOf(caption({ look: { turn: 5 } }), now, { turn: null })).toEqual({ look: null })
  expect(changeOf(caption(), now, { anchor: null })).toEqual({ placement: null })
})

test('words say italics and colours where other formats find them, and the rest in their look', () => {
  const range = { from: 4, to: 10 }
  const [before, inside] = wordsWith(caption().spans, range, { colour: '#FFCC00', font: 'Lora', italic: true })
  expect(before).toMatchObject({ text: 'FOG ', colour: null })
  expect(inside).toMatchObject({ text: 'SIGNAL', colour: '#FFCC00', italic: true, look: { font: 'Lora' } })
  const [upright] = wordsWith([span('FOG', { italic: true })], { from: 0, to: 3 }, { italic: false })
  expect(upright).toMatchObject({ italic: false, look: { italic: false } })
  const [back] = wordsWith([upright!], { from: 0, to: 3 }, { italic: null, colour: null })
  expect(back).toMatchObject({ italic: false, colour: null, look: null })
})

test('numbers are typed as people write them, and kept within their limits', () => {
  expect(storedNumber(NUMBERS.size!, '50 px', 720)).toBeCloseTo(50 / 720)
  expect(storedNumber(NUMBERS.turn!, '−7,5°', 720)).toBe(-7.5)
  expect(storedNumber(NUMBERS.opacity!, '250', 720)).toBe(1)
  expect(storedNumber(NUMBERS.opacity!, 'half', 720)).toBeNull()
  expect(storedNumber(NUMBERS.opacity!, '', 720)).toBeNull()
  expect(shownNumber(NUMBERS.size!, 0.07, 720)).toBe(50.4)
})
