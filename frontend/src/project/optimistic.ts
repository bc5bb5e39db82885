/** What an edit will look like, shown until the server has done it. */
import type { Operation } from '@/api/client'
import { type Caption, merged, textOf } from '@/project/captions'

const unmeasured = {
  measures: {
    characters: 0, longest_line: 0, lines: 0, reading_speed: 0, words_per_minute: 0, duration_ms: 0,
    gap_before_ms: null, gap_after_ms: null,
  },
  findings: [],
  script: '',
  case: null,
  shown: null,
}

/** The captions after an operation. Measures and findings stay as they were: only the server knows them. */
export function applied(captions: readonly Caption[], operation: Operation): readonly Caption[] {
  switch (operation.kind) {
    case 'rewrite-text':
      return changed(captions, operation.caption, (caption) => ({
        ...caption,
        spans: [{ ...(caption.spans[0] ?? plain), text: operation.text }],
        shown: null,
      }))
    case 'retime-captions': {
      const times = new Map(operation.times.map((entry) => [entry.caption, entry]))
      const moved = captions
        .filter((caption) => times.has(caption.id) && !caption.locked)
        .map((caption) => {
          const { in_ms, out_ms } = times.get(caption.id)!
          const duration_ms = out_ms - in_ms
          const measures = duration_ms === caption.measures.duration_ms ? caption.measures : { ...caption.measures, duration_ms }
          return { ...caption, in_ms, out_ms, measures }
        })
      return merged(captions, moved, [])
    }
    case 'lock-captions': {
      const ids = new Set(operation.captions)
      return captions.map((caption) => (ids.has(caption.id) ? { ...caption, locked: operation.locked } : caption))
    }
    case 'insert-captions':
      return merged(captions, operation.captions.map(drafted), [])
    case 'delete-captions':
      return merged(captions, [], operation.captions)
    case 'merge-captions': {
      const parts = captions.filter((caption) => operation.captions.includes(caption.id))
      const [first, ...rest] = parts
      if (!first || !rest.length) return captions
      const whole: Caption = {
        ...first,
        shown: null,
        out_ms: Math.max(...parts.map((caption) => caption.out_ms)),
        spans: [{ ...(first.spans[0] ?? plain), text: parts.map(textOf).filter(Boolean).join('\n') }],
      }
      return merged(captions, [whole], rest.map((caption) => caption.id))
    }
    default:
      return captions
  }
}

const plain = { text: '', italic: false, bold: false, underline: false, colour: null, extras: [] }

type Draft = Extract<Operation, { kind: 'insert-captions' }>['captions'][number]

function drafted(caption: Draft): Caption {
  return { ...unmeasured, speaker: null, placement: null, style: null, ...caption } as unknown as Caption
}

function changed(captions: readonly Caption[], id: string, change: (caption: Caption) => Caption): readonly Caption[] {
  const index = captions.findIndex((caption) => caption.id === id)
  return index < 0 ? captions : captions.with(index, change(captions[index]!))
}
