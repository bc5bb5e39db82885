import { describe, expect, it } from 'vitest'

import { filmBehind, placeAt, withMoment } from '@/picture/windowAt'

const MOMENTS = [
  { at_ms: 200, x: 0.3, y: 0.5, comes: 'cut' as const },
  { at_ms: 1000, x: 0.7, y: 0.1, comes: 'glide' as const },
  { at_ms: 1480, x: 0.2, y: 0.5, comes: 'cut' as const },
]

describe('the place of a window', () => {
  it.each([
    [0, 0.3, 0.5],
    [200, 0.3, 0.5],
    // A quarter of the time is 3/16 − 2/64 of the way.
    [400, 0.3 + 0.4 * 0.15625, 0.5 - 0.4 * 0.15625],
    [600, 0.5, 0.3],
    [1000, 0.7, 0.1],
    [1479, 0.7, 0.1],
    [1480, 0.2, 0.5],
    [9000, 0.2, 0.5],
  ])('at %i ms', (ms, x, y) => {
    expect(placeAt(MOMENTS, ms).x).toBeCloseTo(x, 9)
    expect(placeAt(MOMENTS, ms).y).toBeCloseTo(y, 9)
  })

  it('is the middle where nothing is said', () => {
    expect(placeAt([], 500)).toEqual({ x: 0.5, y: 0.5 })
  })
})

describe('the film behind a window', () => {
  const film = { width: 1280, height: 720 }
  const window = { width: 404, height: 720 }

  it('never ends within it', () => {
    for (const x of [0, 0.1, 0.5, 0.9, 1]) {
      const { left, top, width, height } = filmBehind({ x, y: x }, film, window)
      expect(left).toBeLessThanOrEqual(0)
      expect(left + width).toBeGreaterThanOrEqual(1)
      expect([top, height]).toEqual([-0, 1])
    }
  })

  it('has its middle in the middle where it can', () => {
    const { left, width } = filmBehind({ x: 0.4, y: 0.5 }, film, window)
    expect(left + 0.4 * width).toBeCloseTo(0.5)
  })
})

it('puts a moment in its order, in the place of one at its time', () => {
  const put = withMoment(MOMENTS, { at_ms: 1000, x: 0.9, y: 0.5, comes: 'cut' })
  expect(put.map(({ at_ms, x }) => [at_ms, x])).toEqual([[200, 0.3], [1000, 0.9], [1480, 0.2]])
  expect(withMoment(put, { at_ms: 500, x: 0.1, y: 0.5, comes: 'cut' }).map(({ at_ms }) => at_ms)).toEqual([200, 500, 1000, 1480])
})
