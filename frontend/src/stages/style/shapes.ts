/** Shapes: outlines without words, as captions that have a time and a place. */
import type { Frame } from '@/stages/style/frames'
import { boxOutline, type Corner, pathOfCorners } from '@/stages/style/outlines'
import type { Look, Values } from '@/styling/looks'

export type ShapeKind = 'box' | 'rounded' | 'ellipse'

/** Of the shorter side: how large the corners of a rounded box are. */
const ROUND = 0.25
/** Sides of an ellipse: a bent side for each eighth is off by less than a thousandth. */
const SIDES = 8

/** The outline of a shape in parts of its own box. @param ratio of the box: its width as a part of its height */
export function outlineOf(kind: ShapeKind, ratio: number): string {
  if (kind === 'ellipse') return pathOfCorners(ellipse())
  if (kind === 'box') return pathOfCorners(boxOutline(0, 0, 1, 1))
  const [across, down] = ratio > 1 ? [ROUND / ratio, ROUND] : [ROUND, ROUND * ratio]
  const corner = (x: number, y: number) => ({ x, y })
  const side = (x: number, y: number): Corner => ({ x, y, bend: null })
  return pathOfCorners([
    { ...side(0, down), bend: corner(0, 0) }, side(across, 0),
    { ...side(1 - across, 0), bend: corner(1, 0) }, side(1, down),
    { ...side(1, 1 - down), bend: corner(1, 1) }, side(1 - across, 1),
    { ...side(across, 1), bend: corner(0, 1) }, side(0, 1 - down),
  ])
}

function ellipse(): Corner[] {
  const at = (turn: number, far = 0.5) => ({ x: 0.5 + far * Math.cos(turn), y: 0.5 + far * Math.sin(turn) })
  const step = (2 * Math.PI) / SIDES
  return Array.from({ length: SIDES }, (_, n) => ({ ...at(n * step), bend: at((n + 0.5) * step, 0.5 / Math.cos(step / 2)) }))
}

/** The outline on the picture, in parts of it. */
export function onPicture(corners: readonly Corner[], frame: Frame, width: number, height: number): Corner[] {
  const at = ({ x, y }: { x: number; y: number }) => ({
    x: (frame.left + x * (frame.right - frame.left)) / width,
    y: (frame.top + y * (frame.bottom - frame.top)) / height,
  })
  return corners.map((corner) => ({ ...at(corner), bend: corner.bend && at(corner.bend) }))
}

/**
 * What a caption says that is an outline on the picture: its path in its own box, how large that is, and where.
 * @param base pixels that sizes are parts of
 */
export function valuesOfOutline(corners: readonly Corner[], look: Look, height: number, base: number): Values {
  const points = corners.flatMap((corner) => (corner.bend ? [corner, corner.bend] : [corner]))
  const [xs, ys] = [points.map(({ x }) => x), points.map(({ y }) => y)]
  const [left, top, right, bottom] = [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)]
  const within = ({ x, y }: { x: number; y: number }) => ({ x: (x - left) / Math.max(right - left, 1e-6), y: (y - top) / Math.max(bottom - top, 1e-6) })
  const across = { left: 0, center: 0.5, right: 1 }[look.align ?? 'center']
  const down = { top: 0, middle: 0.5, bottom: 1 }[look.anchor ?? 'middle']
  return {
    shape: pathOfCorners(corners.map((corner) => ({ ...within(corner), bend: corner.bend && within(corner.bend) }))),
    size: ((bottom - top) * height) / base,
    width: right - left,
    x: left + (right - left) * across,
    y: top + (bottom - top) * down,
  }
}
