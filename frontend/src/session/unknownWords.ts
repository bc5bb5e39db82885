/** Words of captions that the dictionary does not know, as the rule about spelling tells them. */
import type { Caption } from '@/session/captions'
import type { Hit } from '@/session/spans'

/** Where in a text words stand that are unknown, as the captions' findings name them. */
export function unknownPlaces(caption: Pick<Caption, 'findings'>, text: string): Hit[] {
  const finding = caption.findings.find(({ rule, waived }) => rule === 'spelling' && !waived)
  const words = String(finding?.message.values?.words ?? '').split(', ').filter(Boolean)
  const found: Hit[] = []
  for (const word of words) {
    const stands = new RegExp(`(?<![\\p{L}\\p{M}])${word.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}(?![\\p{L}\\p{M}])`, 'giu')
    for (const match of text.matchAll(stands)) {
      found.push({ start: match.index, end: match.index + match[0].length, put: null, current: false, unknown: true })
    }
  }
  // One that is told by itself may be a part of another one.
  return found.sort((a, b) => a.start - b.start).filter((hit, index, all) => !index || hit.start >= all[index - 1]!.end)
}
