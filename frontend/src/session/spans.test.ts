import { describe, expect, it } from 'vitest'

import { allBetween, changedBetween, partedAtHits, type Span } from '@/session/spans'

const span = (text: string, style: Partial<Span> = {}): Span => ({
  text, italic: false, bold: false, underline: false, colour: null, background: null, extras: [], ...style,
})
const told = (spans: readonly Span[]) => spans.map(({ text, italic, bold }) => `${italic ? 'i' : ''}${bold ? 'b' : ''}:${text}`)

describe('a range of styled text', () => {
  it('is changed alone, across spans, and no letter is lost', () => {
    const text = [span('The fog '), span('bell ', { bold: true }), span('rang')]
    for (let from = 0; from <= 17; from++) {
      for (let to = from; to <= 17; to++) {
        const now = changedBetween(text, { from, to }, () => ({ italic: true }))
        expect(now.map((part) => part.text).join('')).toBe('The fog bell rang')
        let at = 0
        for (const part of now) {
          expect(part.italic).toBe(at >= from && at < to)
          expect(part.bold).toBe(at >= 8 && at < 13)
          at += part.text.length
        }
      }
    }
  })
  it('can have its letters exchanged', () => {
    const now = changedBetween([span('The fog '), span('bell', { bold: true })], { from: 4, to: 10 }, ({ text }) => ({ text: text.toUpperCase() }))
    expect(told(now)).toEqual([':The ', ':FOG ', 'b:BE', 'b:ll'])
  })
  it('is styled when all of its words are, and never when it has none', () => {
    const text = [span('one', { italic: true }), span(' '), span('two', { italic: true })]
    expect(allBetween(text, { from: 0, to: 7 }, (part) => part.italic)).toBe(true)
    expect(allBetween([...text, span('three')], { from: 0, to: 12 }, (part) => part.italic)).toBe(false)
    expect(allBetween(text, { from: 3, to: 4 }, (part) => part.italic)).toBe(false)
  })
})

describe('places that are looked for', () => {
  const plain = (text: string) => ({ text, italic: false, bold: false, underline: false, extras: [] })
  const spans = [plain('The fog '), { ...plain('bell'), italic: true }, plain(' and the fog')]

  it('are parted from the text, which stays as it is', () => {
    const hits = [{ start: 21, end: 24, put: 'mist', current: true }, { start: 4, end: 10, put: null, current: false }]
    const shown = partedAtHits(spans, hits)
    expect(shown.map(({ text }) => text).join('')).toBe('The fog bell and the fog')
    expect(shown.map(({ text, italic, within, ends }) => [text, italic, within?.put ?? null, ends ?? null])).toEqual([
      ['The ', false, null, null], ['fog ', false, null, false], ['be', true, null, true], ['ll', true, null, null],
      [' and the ', false, null, null], ['fog', false, 'mist', true],
    ])
  })
})
