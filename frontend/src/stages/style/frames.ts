/** Where the letters of captions are on the picture, as frames around them: turned, tilted, and taken hold of. */
import type { Schemas } from '@/api/client'

export type Frame = Schemas['Frame']
export interface Point {
  x: number
  y: number
}
/** Corners clockwise from the upper left one, as the caption is read. */
export type Corners = readonly [Point, Point, Point, Point]

/** How far the eye is from the picture, in its pixels: what the renderer takes it to be. */
const EYE = 312.5

const radians = (degrees: number) => (degrees * Math.PI) / 180

/** Where a point of the picture comes to lie once its caption is turned and tilted: about z, then x, then y. */
export function projected({ x, y }: Point, { x: ox, y: oy, turned, tilt_x, tilt_y }: Frame): Point {
  const [z, a, b] = [radians(turned), radians(tilt_x), radians(tilt_y)]
  const across = (x - ox) * Math.cos(z) - (y - oy) * Math.sin(z)
  const down = (x - ox) * Math.sin(z) + (y - oy) * Math.cos(z)
  const away = -down * Math.sin(a)
  const depth = across * Math.sin(b) + away * Math.cos(b)
  const scale = EYE / Math.max(EYE + depth, 1)
  return { x: ox + (across * Math.cos(b) - away * Math.sin(b)) * scale, y: oy + down * Math.cos(a) * scale }
}

/** A point at parts of a frame's width and height, from its upper left corner, with so many pixels beyond. */
export function pointAt(frame: Frame, across: number, down: number, beyond: Point = { x: 0, y: 0 }): Point {
  const { left, top, right, bottom } = frame
  return projected({ x: left + (right - left) * across + beyond.x, y: top + (bottom - top) * down + beyond.y }, frame)
}

export function cornersOf(frame: Frame): Corners {
  return [pointAt(frame, 0, 0), pointAt(frame, 1, 0), pointAt(frame, 1, 1), pointAt(frame, 0, 1)]
}

/** Left, top, right and bottom of what a frame covers on the picture. */
export function boundsOf(frame: Frame): [number, number, number, number] {
  const corners = cornersOf(frame)
  const xs = corners.map(({ x }) => x)
  const ys = corners.map(({ y }) => y)
  return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)]
}

/** Whether a point lies within a frame; the corners go round it one way. */
export function covers(frame: Frame, { x, y }: Point): boolean {
  const corners = cornersOf(frame)
  const sides = corners.map((corner, index) => {
    const next = corners[(index + 1) % 4]!
    return (next.x - corner.x) * (y - corner.y) - (next.y - corner.y) * (x - corner.x)
  })
  return sides.every((side) => side >= 0) || sides.every((side) => side <= 0)
}

export function movedBy(frame: Frame, dx: number, dy: number): Frame {
  const { left, top, right, bottom, x, y } = frame
  return { ...frame, left: left + dx, top: top + dy, right: right + dx, bottom: bottom + dy, x: x + dx, y: y + dy }
}

/** A frame grown about its own point. */
export function scaledBy(frame: Frame, factor: number): Frame {
  const grown = (value: number, about: number) => about + (value - about) * factor
  const { left, top, right, bottom, x, y } = frame
  return { ...frame, left: grown(left, x), top: grown(top, y), right: grown(right, x), bottom: grown(bottom, y) }
}

/** Degrees clockwise from straight right, of the way from one point to another. */
export const direction = (from: Point, to: Point) => (Math.atan2(to.y - from.y, to.x - from.x) * 180) / Math.PI

/** The same angle between -180 and 180 degrees. */
export const inHalfTurn = (degrees: number) => ((((degrees + 180) % 360) + 360) % 360) - 180
