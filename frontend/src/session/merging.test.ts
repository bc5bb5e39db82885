import { describe, expect, test } from 'vitest'

import type { Caption } from '@/session/captions'
import { applied, captionsOf, replaces, wordsOf } from '@/session/merging'

const caption = (id: string, in_ms: number, out_ms: number, text: string, more: Partial<Caption> = {}) =>
  ({
    id, in_ms, out_ms, spans: [{ text, italic: true }], locked: false, case: null, shown: null, speaker: null,
    measures: { duration_ms: out_ms - in_ms }, ...more,
  }) as unknown as Caption

const captions = [caption('a', 0, 900, 'one'), caption('b', 1000, 1900, 'two', { locked: true }), caption('c', 2000, 2900, 'three')]
const changed = (...changes: { caption: string }[]) => applied(captions, { kind: 'change-captions', changes } as never)

describe('what an edit will look like', () => {
  test('fields are merged, words keep a style, and the order follows the ins', () => {
    const now = changed({ caption: 'a', in_ms: 2500, out_ms: 3000, text: 'later', speaker: 'Ilse' } as never)
    expect(now.map(({ id }) => id)).toEqual(['b', 'c', 'a'])
    expect(now[2]).toMatchObject({ speaker: 'Ilse', spans: [{ text: 'later', italic: true }], measures: { duration_ms: 500 } })
    expect(now[2]).not.toHaveProperty('caption')
  })

  test('a locked caption keeps its times until it is unlocked', () => {
    expect(changed({ caption: 'b', in_ms: 5 } as never)[1]!.in_ms).toBe(1000)
    expect(changed({ caption: 'b', in_ms: 5, locked: false } as never)[1]!.in_ms).toBe(5)
  })

  test('what only the server can work out is not guessed', () => {
    expect(applied(captions, { kind: 'merge-captions', captions: ['a', 'b'] })).toBe(captions)
  })

  test('captions are put in and taken away', () => {
    const fresh = { id: 'n', in_ms: 950, out_ms: 990, spans: [], extras: [], locked: false }
    expect(applied(captions, { kind: 'insert-captions', captions: [fresh] }).map(({ id }) => id)).toEqual(['a', 'n', 'b', 'c'])
    expect(applied(captions, { kind: 'delete-captions', captions: ['b'] }).map(({ id }) => id)).toEqual(['a', 'c'])
  })
})

describe('edits of one gesture', () => {
  const edit = (...changes: object[]) => ({ kind: 'change-captions', changes }) as never

  test('replace each other when they set the same fields of the same captions', () => {
    expect(replaces(edit({ caption: 'a', in_ms: 1, out_ms: 2 }), edit({ caption: 'a', in_ms: 0, out_ms: 2 }))).toBe(true)
    expect(replaces(edit({ caption: 'a', text: 'x' }), edit({ caption: 'a', in_ms: 0 }))).toBe(false)
    expect(replaces(edit({ caption: 'a', text: 'x' }), edit({ caption: 'b', text: 'x' }))).toBe(false)
  })

  test('name their captions, and the words that would be lost with them', () => {
    const two = edit({ caption: 'a', text: 'Ring' }, { caption: 'b', spans: [{ text: 'the ' }, { text: 'bell' }] }, { caption: 'c', locked: true })
    expect(captionsOf(two)).toEqual(['a', 'b', 'c'])
    expect(wordsOf(two)).toBe('Ring … the bell')
  })
})
