/** What a caption is like at moments of its time: between two that say something, it goes in even steps. */
import type { Look, Values } from '@/styling/looks'

export type Moment = NonNullable<Look['moments']>[number]

/** What can be otherwise from moment to moment. */
export const MOMENTARY = ['x', 'y', 'size', 'turn', 'colour', 'opacity'] as const
type Momentary = (typeof MOMENTARY)[number]

const isMomentary = (name: string): name is Momentary => (MOMENTARY as readonly string[]).includes(name)
const says = (moment: Moment) => MOMENTARY.some((name) => (moment[name] ?? null) !== null)

/** Moments in their order, each time once; null where there are none. */
function ordered(moments: readonly Moment[]): Look['moments'] {
  const kept = moments.filter(says).toSorted((a, b) => a.at_ms - b.at_ms)
  return kept.length ? kept : null
}

/** The moments with this one changed, or put where there is none. */
export function withMoment(moments: readonly Moment[] | null | undefined, at_ms: number, values: Values): Look['moments'] {
  const before = moments?.find((moment) => moment.at_ms === at_ms)
  return ordered([...(moments ?? []).filter((moment) => moment !== before), { ...before, ...values, at_ms } as Moment])
}

export function withoutMoment(moments: readonly Moment[], at_ms: number): Look['moments'] {
  return ordered(moments.filter((moment) => moment.at_ms !== at_ms))
}

/**
 * Values as a look with moments takes them: what can be otherwise from moment to moment is said of the moment at a time.
 * What is given back is taken out of all of them.
 */
export function valuesAt(moments: readonly Moment[] | null | undefined, values: Values, at_ms: number): Values {
  if (!moments?.length || values.moments !== undefined) return values
  const momentary = Object.entries(values).filter(([name]) => isMomentary(name))
  if (!momentary.length) return values
  const set = Object.fromEntries(momentary.filter(([, value]) => value !== null)) as Values
  const back = momentary.filter(([, value]) => value === null)
  const given = moments.map((moment) => ({ ...moment, ...Object.fromEntries(back) }) as Moment)
  const rest = Object.fromEntries(Object.entries(values).filter(([name, value]) => !isMomentary(name) || value === null)) as Values
  return { ...rest, moments: Object.keys(set).length ? withMoment(given, at_ms, set) : ordered(given) }
}

/** What the moment at a time says; nothing where there is none. */
export function saidAt(moments: readonly Moment[] | null | undefined, at_ms: number): Values {
  const there = moments?.find((moment) => moment.at_ms === at_ms)
  return Object.fromEntries(MOMENTARY.flatMap((name) => ((there?.[name] ?? null) === null ? [] : [[name, there![name]]]))) as Values
}

/** The next moment after a time, or the one before it. */
export function momentBeside(moments: readonly Moment[], at_ms: number, direction: 1 | -1): Moment | undefined {
  return direction === 1 ? moments.find((moment) => moment.at_ms > at_ms) : moments.findLast((moment) => moment.at_ms < at_ms)
}
