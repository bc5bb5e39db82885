import { expect, test } from 'vitest'

import { boundsOf, covers, direction, type Frame, inHalfTurn, movedBy, pointAt, scaledBy } from '@/stages/style/frames'
import { guidesOf, snapped } from '@/stages/style/guides'
import { shifted } from '@/stages/style/handLines'

const frame = (values: Partial<Frame>): Frame => ({ left: 384, top: 310, right: 634, bottom: 410, x: 384, y: 360, turned: 0, tilt_x: 0, tilt_y: 0, ...values })
const round = (values: number[]) => values.map(Math.round)

test('a frame is where the renderer draws what is turned and tilted', () => {
  // As it was measured in a drawn picture, of letters on a ground of their own size.
  expect(round(boundsOf(frame({ tilt_y: 40 })))[2]).toBe(Math.round(384 + 250 * Math.cos((40 * Math.PI) / 180) * (312.5 / (312.5 + 250 * Math.sin((40 * Math.PI) / 180)))))
  expect(round(boundsOf(frame({})))).toEqual([384, 310, 634, 410])
  const turned = pointAt(frame({ turned: 90 }), 1, 0.5)
  expect(round([turned.x, turned.y])).toEqual([384, 610])
  // Its upper part goes away from who looks: nearer to the middle.
  const tilted = frame({ tilt_x: 40 })
  expect(pointAt(tilted, 0, 0).y - 360).toBeGreaterThan(360 - pointAt(tilted, 0, 1).y)
})

test('a point is in a frame also where that is turned', () => {
  expect(covers(frame({}), { x: 500, y: 350 })).toBe(true)
  expect(covers(frame({ turned: 90 }), { x: 500, y: 350 })).toBe(false)
  expect(covers(frame({ turned: 90 }), { x: 384, y: 500 })).toBe(true)
})

test('a frame moves and grows about its point', () => {
  expect(movedBy(frame({}), 10, -5)).toMatchObject({ left: 394, top: 305, x: 394, y: 355 })
  expect(scaledBy(frame({}), 2)).toMatchObject({ left: 384, right: 884, top: 260, bottom: 460, x: 384, y: 360 })
  expect(direction({ x: 0, y: 0 }, { x: 0, y: 10 })).toBe(90)
  expect(inHalfTurn(350)).toBe(-10)
})

test('held lines are moved, turned and tilted by their numbers alone', () => {
  const lines = 'Dialogue: 0,0:00:00.00,0:00:01.00,Caption,,0,0,0,,{\\an2\\pos(640.00,680.40)\\frz0\\frx0\\fry-3.5}{\\fnVollkorn}FOG{\\r\\frz0\\frx0\\fry-3.5} 12\n'
  expect(shifted(lines, { dx: 10.5, dy: -20, turn: 7, tilt_y: 3.5 })).toBe(
    'Dialogue: 0,0:00:00.00,0:00:01.00,Caption,,0,0,0,,{\\an2\\pos(650.50,660.40)\\frz-7\\frx0\\fry0}{\\fnVollkorn}FOG{\\r\\frz-7\\frx0\\fry0} 12\n',
  )
  expect(shifted(lines, {})).toBe(lines)
})

test('what is moved comes to lie on a guide that is near, with its middle or an edge', () => {
  const guides = guidesOf(1280, 720, [[100, 600, 300, 660]])
  const centred = snapped([543, 300, 743, 360], guides, 6)
  expect([centred.x, centred.on.map(({ name }) => name)]).toEqual([-3, ['centre']])
  const safe = snapped([400, 620, 500, 682], guides, 6)
  expect([safe.y, safe.on.at(-1)!.name]).toEqual([2, 'safe'])
  expect(snapped([104, 20, 204, 80], guides, 6).x).toBe(-4)
  expect(snapped([230, 130, 330, 190], guides, 6)).toMatchObject({ x: 0, y: 0, on: [] })
})
