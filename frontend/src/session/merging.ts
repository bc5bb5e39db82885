/** What an edit of fields will look like, shown until the server has answered. What needs more than that waits. */
import type { Operation } from '@/api/client'
import { type Caption, merged } from '@/session/captions'

const unmeasured = {
  measures: {
    characters: 0, longest_line: 0, lines: 0, reading_speed: 0, words_per_minute: 0, duration_ms: 0,
    gap_before_ms: null, gap_after_ms: null,
  },
  findings: [],
  script: '',
  case: null,
  shown: null,
  direction: 'ltr',
}
const plain = { text: '', italic: false, bold: false, underline: false, colour: null, extras: [] }

export type Change = Extract<Operation, { kind: 'change-captions' }>['changes'][number]
type Draft = Extract<Operation, { kind: 'insert-captions' }>['captions'][number]

/** The captions after an operation. Measures and findings stay as they were: only the server knows them. */
export function applied(captions: readonly Caption[], operation: Operation): readonly Caption[] {
  switch (operation.kind) {
    case 'change-captions': {
      const changes = new Map(operation.changes.map((change) => [change.caption, change]))
      const now = captions.filter(({ id }) => changes.has(id)).map((caption) => changed(caption, changes.get(caption.id)!))
      return merged(captions, now, [])
    }
    case 'insert-captions':
      return merged(captions, operation.captions.map(drafted), [])
    case 'delete-captions':
      return merged(captions, [], operation.captions)
    default:
      return captions
  }
}

function changed(caption: Caption, { text, ...fields }: Change): Caption {
  const now: Caption & { caption?: string } = { ...caption, ...(fields as Partial<Caption>) }
  delete now.caption
  if (text !== undefined) now.spans = [{ ...(caption.spans[0] ?? plain), text }]
  if (text !== undefined || fields.spans || fields.case !== undefined) now.shown = null
  if (caption.locked && fields.locked !== false) [now.in_ms, now.out_ms] = [caption.in_ms, caption.out_ms]
  const duration_ms = now.out_ms - now.in_ms
  if (duration_ms !== caption.measures.duration_ms) now.measures = { ...caption.measures, duration_ms }
  return now
}

function drafted(caption: Draft): Caption {
  return { ...unmeasured, speaker: null, placement: null, style: null, ...caption } as unknown as Caption
}

/** Ids of the captions that an operation speaks of. */
export function captionsOf(operation: Operation): string[] {
  switch (operation.kind) {
    case 'change-captions':
      return operation.changes.map(({ caption }) => caption)
    case 'split-caption':
      return [operation.caption]
    case 'insert-captions':
      return operation.captions.map(({ id }) => id)
    case 'delete-captions':
    case 'merge-captions':
      return [...operation.captions]
    case 'replace-captions':
      return [...operation.removed, ...operation.captions.map(({ id }) => id)]
  }
}

/** Whether an edit says all that another one does, so that the other need not be sent. */
export function replaces(next: Operation, last: Operation): boolean {
  if (next.kind !== 'change-captions' || last.kind !== 'change-captions') return false
  const set = (operation: typeof next) => operation.changes.map((change) => Object.keys(change).sort().join() + change.caption).join(' ')
  return set(next) === set(last)
}

/** The words that an edit would have written. */
export function wordsOf(operation: Operation): string {
  if (operation.kind === 'change-captions') {
    return operation.changes.flatMap(({ text, spans }) => text ?? spans?.map((span) => span.text).join('') ?? []).join(' … ')
  }
  if (operation.kind !== 'insert-captions') return ''
  return operation.captions.map(({ spans }) => (spans ?? []).map((span) => span.text).join('')).filter(Boolean).join(' … ')
}

/** The edit that gives captions other times. */
export const retiming = (times: readonly { caption: string; in_ms: number; out_ms: number }[]): Operation => ({
  kind: 'change-captions',
  changes: times.map(({ caption, in_ms, out_ms }) => ({ caption, in_ms, out_ms })),
})
