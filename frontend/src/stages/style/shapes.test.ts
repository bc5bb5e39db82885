import { expect, test } from 'vitest'

import { cornersOfPath } from '@/stages/style/outlines'
import { onPicture, outlineOf, valuesOfOutline } from '@/stages/style/shapes'

const frame = { left: 320, top: 270, right: 960, bottom: 450, x: 640, y: 360, turned: 0, tilt_x: 0, tilt_y: 0 }
const look = { anchor: 'middle', align: 'center' } as const

test.each(['box', 'rounded', 'ellipse'] as const)('a %s on the picture is the same shape again', (kind) => {
  const path = outlineOf(kind, 640 / 180)
  const values = valuesOfOutline(onPicture(cornersOfPath(path), frame, 1280, 720), look, 720, 720)
  const numbers = (data: string) => data.match(/[\d.]+/g)!.map(Number)
  const [before, after] = [numbers(path), numbers(values.shape!)]
  expect(after).toHaveLength(before.length)
  after.forEach((value, at) => expect(value).toBeCloseTo(before[at]!, 3))
  expect(values.size).toBeCloseTo(0.25, 3)
  expect(values.width).toBeCloseTo(0.5, 3)
  expect([values.x, values.y].map((value) => Number(value!.toFixed(3)))).toEqual([0.5, 0.5])
})

test('a rounded box has corners that are as tall as wide', () => {
  const [first, second] = cornersOfPath(outlineOf('rounded', 4))
  expect(first!.y).toBeCloseTo(second!.x * 4)
})
