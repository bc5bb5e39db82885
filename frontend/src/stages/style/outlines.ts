/** Outlines on the picture, such as the window that a caption is seen through: corners, and sides that may be bent. */
import type { Point } from '@/stages/style/frames'

/** A corner, and where the side from it to the next is drawn to; null where that is straight. */
export interface Corner extends Point {
  bend: Point | null
}

const PIECE = /([MLQC])([^MLQCZ]*)/g
/** As exact as the server keeps them. */
const exact = (value: number) => Number(value.toFixed(5))

/** The corners of the first outline of path data. */
export function cornersOfPath(data: string): Corner[] {
  const corners: Corner[] = []
  for (const [, kind, text] of data.matchAll(PIECE)) {
    const numbers = text!.replaceAll(',', ' ').trim().split(/\s+/).map(Number)
    const points = Array.from({ length: numbers.length / 2 }, (_, at) => ({ x: numbers[2 * at]!, y: numbers[2 * at + 1]! }))
    if (kind === 'M' && corners.length) break
    const before = corners.at(-1)
    if (before && kind === 'Q') before.bend = points[0]!
    // A side with two handles is drawn to the middle of them.
    if (before && kind === 'C') before.bend = { x: (points[0]!.x + points[1]!.x) / 2, y: (points[0]!.y + points[1]!.y) / 2 }
    corners.push({ ...points.at(-1)!, bend: null })
  }
  const [first, last] = [corners[0], corners.at(-1)]
  // The way back to where it began is a side, too.
  if (first && last && corners.length > 1 && first.x === last.x && first.y === last.y) corners.pop()
  return corners
}

/** Path data of an outline, which closes itself. */
export function pathOfCorners(corners: readonly Corner[]): string {
  const said = ({ x, y }: Point) => `${exact(x)} ${exact(y)}`
  const sides = corners.map((corner, index) => {
    const next = corners[(index + 1) % corners.length]!
    if (corner.bend) return `Q${said(corner.bend)} ${said(next)}`
    return index === corners.length - 1 ? '' : `L${said(next)}`
  })
  return `M${said(corners[0]!)} ${sides.filter(Boolean).join(' ')} Z`.replace(/\s+/g, ' ')
}

/** The middle of the side from a corner to the next. */
export function middleOf(corners: readonly Corner[], index: number): Point {
  const [from, to] = [corners[index]!, corners[(index + 1) % corners.length]!]
  const { bend } = from
  if (!bend) return { x: (from.x + to.x) / 2, y: (from.y + to.y) / 2 }
  return { x: (from.x + 2 * bend.x + to.x) / 4, y: (from.y + 2 * bend.y + to.y) / 4 }
}

/** The bend by which the middle of a side comes to lie on a point; null where that makes it straight. */
export function bendThrough(corners: readonly Corner[], index: number, { x, y }: Point): Point | null {
  const [from, to] = [corners[index]!, corners[(index + 1) % corners.length]!]
  const bend = { x: 2 * x - (from.x + to.x) / 2, y: 2 * y - (from.y + to.y) / 2 }
  const straight = Math.hypot(bend.x - (from.x + to.x) / 2, bend.y - (from.y + to.y) / 2)
  return straight < 0.006 ? null : bend
}

/** A corner more, in the middle of a side. */
export function withCorner(corners: readonly Corner[], index: number): Corner[] {
  const from = corners[index]!
  const fresh = { ...middleOf(corners, index), bend: null }
  return [...corners.slice(0, index), { ...from, bend: null }, fresh, ...corners.slice(index + 1)]
}

export const movedOutline = (corners: readonly Corner[], dx: number, dy: number): Corner[] =>
  corners.map(({ x, y, bend }) => ({ x: x + dx, y: y + dy, bend: bend && { x: bend.x + dx, y: bend.y + dy } }))

export const boxOutline = (left: number, top: number, right: number, bottom: number): Corner[] =>
  [[left, top], [right, top], [right, bottom], [left, bottom]].map(([x, y]) => ({ x: x!, y: y!, bend: null }))

const UNITS = 8
const CLIPS = /\\i?clip\(4,[^)]*\)/g

/** Held lines, seen through another window; null takes it away. @param width of the picture, in pixels */
export function seenThrough(lines: string, corners: readonly Corner[] | null, keeps: 'inside' | 'outside', width: number, height: number): string {
  const bare = lines.replace(CLIPS, '')
  if (!corners) return bare
  const at = ({ x, y }: Point) => `${Math.round(x * width * UNITS)} ${Math.round(y * height * UNITS)}`
  const towards = (end: Point, handle: Point) => ({ x: end.x + ((handle.x - end.x) * 2) / 3, y: end.y + ((handle.y - end.y) * 2) / 3 })
  const sides = corners.map((corner, index) => {
    const next = corners[(index + 1) % corners.length]!
    return corner.bend ? `b ${at(towards(corner, corner.bend))} ${at(towards(next, corner.bend))} ${at(next)}` : `l ${at(next)}`
  })
  const code = `\\${keeps === 'inside' ? 'clip' : 'iclip'}(4,m ${at(corners[0]!)} ${sides.join(' ')})`
  return bare.replace(/^(Dialogue:(?:[^,]*,){9}\{)/gm, `$1${code.replaceAll('$', '$$$$')}`)
}
