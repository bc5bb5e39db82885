/** What is set of a look, as captions, their words and styles say it. */
import type { Caption } from '@/session/captions'
import type { Change } from '@/session/merging'
import { changedBetween, type Range, type Span } from '@/session/spans'
import { PLACE } from '@/stages/style/properties'
import { type Look, lookWith, type Values } from '@/styling/looks'

const isOfPlace = (name: string) => (PLACE as readonly string[]).includes(name)

/** The change by which a caption says these values itself. @param now how it looks, which its place is made of */
export function changeOf(caption: Caption, now: Look, values: Values): Omit<Change, 'caption'> {
  const { case: letters, ...rest } = values
  const place = Object.entries(rest).filter(([name]) => isOfPlace(name))
  const look = Object.fromEntries(Object.entries(rest).filter(([name]) => !isOfPlace(name)))
  const change: Omit<Change, 'caption'> = {}
  if (letters !== undefined) change.case = letters
  if (Object.keys(look).length) change.look = lookWith(caption.look, look) as Change['look']
  if (place.length) change.placement = placementOf(caption, now, Object.fromEntries(place))
  return change
}

function placementOf(caption: Caption, now: Look, values: Values): Caption['placement'] {
  const own = caption.placement
  const { anchor, align } = { anchor: own?.anchor ?? now.anchor!, align: own?.align ?? now.align! }
  const before = { anchor, align, x: own?.x ?? null, y: own?.y ?? null, width: own?.width ?? now.width ?? null, vertical: own?.vertical ?? now.vertical ?? null }
  // An anchor that is given back takes all of the place with it.
  return values.anchor === null ? null : ({ ...before, ...values } as Caption['placement'])
}

/** Styled text in which a range says these values itself. What other formats know too stands where they find it. */
export function wordsWith(spans: readonly Span[], range: Range, values: Values): Span[] {
  const { italic, underline, colour, background, ...rest } = values
  const look: Values = { ...rest }
  const fields: Partial<Span> = {}
  for (const [name, on] of Object.entries({ italic, underline })) {
    if (on === undefined) continue
    fields[name as 'italic'] = on ?? false
    // Not to be so is more than to say nothing of it.
    look[name as 'italic'] = on === false ? false : null
  }
  for (const [name, value] of Object.entries({ colour, background })) {
    if (value === undefined) continue
    fields[name as 'colour'] = value
    look[name as 'colour'] = null
  }
  return changedBetween(spans, range, (span) => ({ ...fields, look: lookWith(span.look, look) as Span['look'] }))
}
