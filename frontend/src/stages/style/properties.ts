/** What can be set of how captions look: by groups, each with how it is typed and which levels may say it. */
import type { Look } from '@/styling/looks'

export type Property = keyof Look

/** How a number is typed: in the unit it is shown in, which is `scale` times how it is stored. */
export interface NumberKind {
  unit: '%' | 'px' | 'em' | '×' | '°' | 'ms'
  /** `base`: times the pixels that sizes are parts of. */
  scale: number | 'base'
  step: number
  least: number
  most: number
}

const PERCENT: NumberKind = { unit: '%', scale: 100, step: 1, least: 0, most: 100 }
const EDGE: NumberKind = { unit: 'px', scale: 'base', step: 0.5, least: 0, most: 144 }
const ANGLE: NumberKind = { unit: '°', scale: 1, step: 1, least: -360, most: 360 }
const MOMENT: NumberKind = { unit: 'ms', scale: 1, step: 50, least: 0, most: 10_000 }

export const NUMBERS: Partial<Record<Property, NumberKind>> = {
  size: { unit: 'px', scale: 'base', step: 1, least: 4, most: 1440 },
  stretch: { unit: '%', scale: 100, step: 5, least: 10, most: 500 },
  letter_spacing: { unit: 'em', scale: 1, step: 0.01, least: -0.5, most: 2 },
  line_spacing: { unit: '×', scale: 1, step: 0.05, least: 0.1, most: 5 },
  opacity: PERCENT,
  outline: EDGE,
  outline_opacity: PERCENT,
  outline_softness: EDGE,
  shadow: EDGE,
  shadow_direction: ANGLE,
  shadow_opacity: PERCENT,
  shadow_softness: EDGE,
  background_opacity: PERCENT,
  background_padding: EDGE,
  background_corners: EDGE,
  margin: { ...PERCENT, step: 0.5 },
  side_margin: { ...PERCENT, step: 0.5, most: 49 },
  x: { ...PERCENT, step: 0.1 },
  y: { ...PERCENT, step: 0.1 },
  width: PERCENT,
  turn: ANGLE,
  tilt_x: ANGLE,
  tilt_y: ANGLE,
  comes_ms: MOMENT,
  goes_ms: MOMENT,
}

/** What only a whole caption can be: where it is, how it comes and goes, and what is drawn around all of it. */
const OF_CAPTIONS = new Set<Property>([
  'line_spacing', 'case', 'background_shape', 'background_corners', 'margin', 'side_margin', 'anchor', 'align', 'x', 'y', 'width', 'vertical', 'turn',
  'tilt_x', 'tilt_y', 'window', 'window_keeps', 'shape', 'layer', 'comes', 'comes_ms', 'goes', 'goes_ms', 'moments',
])

/** What a caption says all at once of its place, or nothing of. */
export const PLACE = ['anchor', 'align', 'x', 'y', 'width', 'vertical'] as const

export const WEIGHTS = [400, 700, 900] as const
export const CASES = ['written', 'upper', 'lower', 'sentence'] as const
export const ENTRANCES = ['cut', 'fade', 'rise', 'grow', 'wipe', 'type'] as const

export const ofWords = (property: Property) => !OF_CAPTIONS.has(property)

/** A number as it is typed, of how it is stored. */
export function shownNumber(kind: NumberKind, value: number, base: number): number {
  const shown = value * (kind.scale === 'base' ? base : kind.scale)
  return Number(shown.toFixed(kind.step < 0.1 ? 2 : kind.step < 1 ? 1 : kind.unit === 'px' || kind.unit === '°' ? 1 : 0))
}

/** A number as it is stored, of how it was typed; null when it is none. Beyond its limits it is the limit. */
export function storedNumber(kind: NumberKind, typed: string, base: number): number | null {
  const number = Number(typed.replace(',', '.').replace('−', '-').replace(/[^\d.e-]+$/, '').trim() || 'x')
  if (!Number.isFinite(number)) return null
  return Math.min(Math.max(number, kind.least), kind.most) / (kind.scale === 'base' ? base : kind.scale)
}
