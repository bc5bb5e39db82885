/** What is followed in the picture, as the page shows it: boxes that were marked, and the path they go. */
import type { Schemas } from '@/api/client'
import { firstIndex } from '@/kit/ordered'
import type { Frame, Point } from '@/stages/style/frames'

export type PathView = Schemas['PathView']
export type Mark = Schemas['MarkView'] & { turn: number }
/** A mark without its time. */
export type Box = Omit<Mark, 'at_ms'>

/** Less sure than this, a frame wants to be looked at. */
export const DOUBTFUL = 0.6
/** The least side of a box, as a part of the picture. */
const LEAST = 0.01

const within = (value: number, least: number, most: number) => Math.min(Math.max(value, least), most)

/** A box as the server takes it: its middle in the picture, its sides no longer than that, turned by less than once around. */
export const inPicture = ({ x, y, width, height, turn }: Box): Box => ({
  x: within(x, 0, 1), y: within(y, 0, 1), width: within(width, LEAST, 1), height: within(height, LEAST, 1), turn: turn % 360,
})

/** A box as a frame on the picture, in its pixels. */
export function frameOfBox(box: Box, size: { width: number; height: number }): Frame {
  const [x, y] = [box.x * size.width, box.y * size.height]
  const [across, down] = [(box.width * size.width) / 2, (box.height * size.height) / 2]
  return { left: x - across, top: y - down, right: x + across, bottom: y + down, x, y, turned: box.turn, tilt_x: 0, tilt_y: 0 }
}

/** An upright box with these corners, in pixels of the picture. */
export function boxBetween(one: Point, other: Point, size: { width: number; height: number }): Box {
  return inPicture({
    x: (one.x + other.x) / 2 / size.width,
    y: (one.y + other.y) / 2 / size.height,
    width: Math.abs(one.x - other.x) / size.width,
    height: Math.abs(one.y - other.y) / size.height,
    turn: 0,
  })
}

/** The box when a corner of it is drawn to a point; the corner across stays. */
export function boxWithCorner(box: Box, across: Point, to: Point, size: { width: number; height: number }): Box {
  const angle = (-box.turn * Math.PI) / 180
  const [dx, dy] = [to.x - across.x, to.y - across.y]
  return inPicture({
    x: (across.x + to.x) / 2 / size.width,
    y: (across.y + to.y) / 2 / size.height,
    width: Math.abs(dx * Math.cos(angle) - dy * Math.sin(angle)) / size.width,
    height: Math.abs(dx * Math.sin(angle) + dy * Math.cos(angle)) / size.height,
    turn: box.turn,
  })
}

/** Marks with this one, in the place of the one that was at its time. */
export function withMark(marks: readonly Mark[], mark: Mark): Mark[] {
  return marks.some(({ at_ms }) => at_ms === mark.at_ms)
    ? marks.map((each) => (each.at_ms === mark.at_ms ? mark : each))
    : [...marks, mark]
}

/** Where what is followed is at a frame of its path, the first being 0; undefined outside of it. */
export function boxOnPath(path: PathView, frame: number): Box | undefined {
  const [x, y, scale, turn] = [path.x[frame], path.y[frame], path.scale[frame], path.turn[frame]]
  if (x === undefined || y === undefined || scale === undefined || turn === undefined) return undefined
  return { x, y, turn, width: path.width * scale, height: path.height * scale }
}

/** The nearest mark before a time, or behind it where there is none; they may be in any order. */
export function markNear(marks: readonly Mark[], at_ms: number): Mark | undefined {
  const ordered = marks.toSorted((a, b) => a.at_ms - b.at_ms)
  const after = firstIndex(ordered.map(({ at_ms: time }) => ({ in_ms: time })), ({ in_ms }) => in_ms, at_ms + 1)
  return ordered[Math.max(after - 1, 0)]
}

/** The frame at which it is least sure within the next stretch of doubt behind a frame; from the start again at the end. */
export function nextDoubt(sure: readonly number[], frame: number): number | undefined {
  const doubts: number[] = []
  for (let n = 0; n < sure.length; n++) {
    if (sure[n]! >= DOUBTFUL) continue
    let least = n
    for (; n < sure.length && sure[n]! < DOUBTFUL; n++) if (sure[n]! < sure[least]!) least = n
    doubts.push(least)
  }
  return doubts.find((doubt) => doubt > frame) ?? doubts[0]
}
