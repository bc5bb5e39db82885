import { expect, test } from 'vitest'

import { bendThrough, boxOutline, cornersOfPath, middleOf, movedOutline, pathOfCorners, seenThrough, withCorner } from '@/stages/style/outlines'

const box = boxOutline(0.2, 0.3, 0.6, 0.5)

test('an outline is kept as path data and read again', () => {
  expect(pathOfCorners(box)).toBe('M0.2 0.3 L0.6 0.3 L0.6 0.5 L0.2 0.5 Z')
  expect(cornersOfPath(pathOfCorners(box))).toEqual(box)
  const bent = box.map((corner, index) => (index === 3 ? { ...corner, bend: { x: 0.1, y: 0.4 } } : corner))
  expect(pathOfCorners(bent)).toBe('M0.2 0.3 L0.6 0.3 L0.6 0.5 L0.2 0.5 Q0.1 0.4 0.2 0.3 Z')
  expect(cornersOfPath(pathOfCorners(bent))).toEqual(bent)
})

test('a side is bent through a point, gets a corner more, and all of it moves', () => {
  const bend = bendThrough(box, 0, { x: 0.4, y: 0.2 })!
  const bent = [{ ...box[0]!, bend }, ...box.slice(1)]
  expect(middleOf(bent, 0).y).toBeCloseTo(0.2)
  expect(bendThrough(bent, 0, { x: 0.4, y: 0.3 })).toBeNull()
  expect(withCorner(box, 3).map(({ x, y }) => [x, y]).at(-1)).toEqual([0.2, 0.4])
  expect(movedOutline(bent, 0.1, 0)[0]!.bend!.x).toBeCloseTo(bend.x + 0.1)
})

test('held lines are seen through a window, and through none', () => {
  const line = 'Dialogue: 0,0:00:00.00,0:00:01.00,Caption,,0,0,0,,{\\an2\\pos(640.00,680.40)\\frz0}FOG\n'
  const seen = seenThrough(line, boxOutline(0, 0, 0.5, 1), 'outside', 1280, 720)
  expect(seen).toContain(',,0,0,0,,{\\iclip(4,m 0 0 l 5120 0 l 5120 5760 l 0 5760 l 0 0)\\an2')
  expect(seenThrough(seen, null, 'inside', 1280, 720)).toBe(line)
})
