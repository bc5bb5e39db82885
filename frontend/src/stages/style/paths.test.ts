import { describe, expect, it } from 'vitest'

import { boundsOf, cornersOf } from '@/stages/style/frames'
import { boxBetween, boxOnPath, boxWithCorner, frameOfBox, inPicture, type Mark, markNear, nextDoubt, withMark } from '@/stages/style/paths'

const SIZE = { width: 1280, height: 720 }
const mark = (at_ms: number, x = 0.5): Mark => ({ at_ms, x, y: 0.5, width: 0.2, height: 0.1, turn: 0 })

describe('boxes', () => {
  it('are drawn from corner to corner, whichever way', () => {
    const box = boxBetween({ x: 640, y: 360 }, { x: 320, y: 180 }, SIZE)
    expect(box).toEqual({ x: 0.375, y: 0.375, width: 0.25, height: 0.25, turn: 0 })
    expect(boundsOf(frameOfBox(box, SIZE))).toEqual([320, 180, 640, 360])
  })

  it('keep the corner across when one is drawn, turned ones, too', () => {
    const box = { ...mark(0), turn: 30 }
    const corners = cornersOf(frameOfBox(box, SIZE))
    const to = { x: corners[2].x + 40, y: corners[2].y + 60 }
    const drawn = cornersOf(frameOfBox(boxWithCorner(box, corners[0], to, SIZE), SIZE))
    expect(drawn[0].x).toBeCloseTo(corners[0].x)
    expect(drawn[0].y).toBeCloseTo(corners[0].y)
    expect(drawn[2].x).toBeCloseTo(to.x)
    expect(drawn[2].y).toBeCloseTo(to.y)
  })

  it('have their middle in the picture, and a side at least', () => {
    expect(inPicture({ x: -0.2, y: 1.4, width: 0, height: 3, turn: 365 })).toEqual({ x: 0, y: 1, width: 0.01, height: 1, turn: 5 })
  })
})

describe('marks', () => {
  it('are put in the place of the one of their time, and the first stays the first', () => {
    const marks = withMark(withMark([mark(400)], mark(200)), mark(400, 0.7))
    expect(marks.map(({ at_ms, x }) => [at_ms, x])).toEqual([[400, 0.7], [200, 0.5]])
  })

  it('are found by what comes before a time, or behind it', () => {
    const marks = [mark(400), mark(200)]
    expect([0, 200, 399, 400, 900].map((at) => markNear(marks, at)!.at_ms)).toEqual([200, 200, 200, 400, 400])
    expect(markNear([], 100)).toBeUndefined()
  })
})

it('a box goes along a path, and is nowhere outside of it', () => {
  const path = { first_ms: 0, end_ms: 80, width: 0.2, height: 0.1, x: [0.5, 0.6], y: [0.5, 0.5], scale: [1, 2], turn: [0, 10], sure: [1, 1] }
  expect(boxOnPath(path, 1)).toEqual({ x: 0.6, y: 0.5, width: 0.4, height: 0.2, turn: 10 })
  expect(boxOnPath(path, 2)).toBeUndefined()
  expect(boxOnPath(path, -1)).toBeUndefined()
})

it('doubt is gone to where it is greatest, stretch by stretch, and from the start again', () => {
  const sure = [1, 0.5, 0.2, 0.5, 1, 1, 0.4, 0.55]
  expect([0, 2, 6].map((frame) => nextDoubt(sure, frame))).toEqual([2, 6, 2])
  expect(nextDoubt([1, 1], 0)).toBeUndefined()
})
