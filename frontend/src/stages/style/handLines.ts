/** Lines of the render script as a hand changes them: by the numbers that say where a caption is and how it is turned. */
export interface Shift {
  dx?: number
  dy?: number
  /** Degrees clockwise. */
  turn?: number
  tilt_x?: number
  tilt_y?: number
}

const POINTS = /\\(pos|org)\((-?[\d.]+),(-?[\d.]+)\)/g
const ANGLES = /\\fr([zxy])(-?[\d.]+(?:e-?\d+)?)/g

/** Held lines, moved, turned and tilted by so much more than they are. The script counts turns against the clock. */
export function shifted(lines: string, { dx = 0, dy = 0, turn = 0, tilt_x = 0, tilt_y = 0 }: Shift): string {
  const more: Record<string, number> = { z: -turn, x: tilt_x, y: tilt_y }
  return lines
    .replace(POINTS, (_, name, x, y) => `\\${name}(${(Number(x) + dx).toFixed(2)},${(Number(y) + dy).toFixed(2)})`)
    .replace(ANGLES, (_, axis, angle) => `\\fr${axis}${Number((Number(angle) + more[axis]!).toFixed(4))}`)
}
