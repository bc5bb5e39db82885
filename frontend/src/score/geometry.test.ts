import { describe, expect, it } from 'vitest'

import { EvenRows, EvenTime, lanes, ROW_HEIGHT, stacked } from '@/score/geometry'

const captions = Array.from({ length: 10_000 }, (_, i) => ({ in_ms: i * 1080 + 500, out_ms: i * 1080 + 1500 }))
const durationMs = 10_000 * 1080 + 2000

describe.each([
  ['even time', new EvenTime(captions, durationMs, 50)],
  ['even rows', new EvenRows(captions, durationMs)],
])('%s', (_, geometry) => {
  it('gives back the time it was given a place for', () => {
    for (const ms of [0, 499, 500, 999, 54_321, 5_400_000, durationMs]) {
      expect(geometry.ms(geometry.y(ms))).toBeCloseTo(ms, 3)
    }
  })

  it('never runs backwards', () => {
    let last = -1
    for (let ms = 0; ms < 20_000; ms += 37) {
      expect(geometry.y(ms)).toBeGreaterThanOrEqual(last)
      last = geometry.y(ms)
    }
  })

  it('finds every card that touches a stretch, and few others', () => {
    for (const top of [0, 1000, 123_456]) {
      const [from, to] = geometry.visible(top, top + 700)
      const touching = captions
        .map((__, index) => index)
        .filter((index) => {
          const box = geometry.box(index)
          return box.top < top + 700 && box.top + box.height > top
        })
      expect(from).toBeLessThanOrEqual(touching[0] ?? from)
      expect(to).toBeGreaterThan(touching.at(-1) ?? 0)
      expect(to - from).toBeLessThan(touching.length + 4)
    }
  })
})

it('draws a card as tall as it is long', () => {
  expect(new EvenTime(captions, durationMs, 50).box(2)).toEqual({ top: 133, height: 50 })
})

it('stands rows one under the other, under the time before the first', () => {
  expect(new EvenRows(captions, durationMs).box(2)).toEqual({ top: 3 * ROW_HEIGHT, height: ROW_HEIGHT })
})

it('puts overlapping captions in lanes', () => {
  const timed = [
    { in_ms: 0, out_ms: 100 },
    { in_ms: 50, out_ms: 200 },
    { in_ms: 100, out_ms: 150 },
    { in_ms: 120, out_ms: 130 },
    { in_ms: 200, out_ms: 300 },
    { in_ms: 400, out_ms: 500 },
    { in_ms: 499, out_ms: 600 },
  ]
  expect(lanes(timed).map(({ lane, of }) => `${lane + 1} of ${of}`)).toEqual([
    '1 of 3', '2 of 3', '1 of 3', '3 of 3', '1 of 1', '1 of 2', '2 of 2',
  ])
})

it('stacks notes without covering', () => {
  expect(stacked([{ top: 0, height: 30 }, { top: 10, height: 30 }, { top: 100, height: 30 }])).toEqual([0, 30, 100])
})
