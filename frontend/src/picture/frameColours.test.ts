import { expect, test } from 'vitest'

import { commonColours, meanColour } from '@/picture/frameColours'

/** A picture of rows of colours, each as wide as the picture. */
function picture(width: number, ...rows: [number, number, number][]) {
  const data = new Uint8ClampedArray(rows.flatMap((colour) => Array.from({ length: width }, () => [...colour, 255]).flat()))
  return { data, width, height: rows.length }
}

test('the mean of a few pixels is that of those in the picture', () => {
  const rows = picture(3, [0, 0, 0], [90, 30, 60], [90, 30, 60])
  expect(meanColour(rows, 1, 1)).toBe('#3C1428')
  expect(meanColour(rows, 0, 0, 0)).toBe('#000000')
  expect(meanColour(rows, 2, 2)).toBe('#5A1E3C')
})

test('the most used colours come first, and none twice in another shade', () => {
  const sea: [number, number, number] = [60, 100, 110]
  const rows = picture(4, sea, sea, [62, 101, 112], [200, 60, 30], [200, 60, 30], [250, 250, 240])
  expect(commonColours(rows, 3)).toEqual(['#3D646F', '#C83C1E', '#FAFAF0'])
  expect(commonColours(rows, 1)).toHaveLength(1)
})
