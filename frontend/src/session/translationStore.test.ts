import { expect, test } from 'vitest'

import type { Caption } from '@/session/captions'
import { type Link, saidBy, standingOf } from '@/session/translationStore'

const caption = (id: string, text: string) => ({ id, spans: text ? [{ text }] : [] }) as unknown as Caption
const byId = new Map([caption('a', 'Hang it\nhigh'), caption('b', ' '), caption('c', 'by the  door.')].map((one) => [one.id, one]))
const link = (more: Partial<Link>): Link => ({ sources: ['a'], ...more })

test('what sources say is one line, wherever theirs end, without those that say nothing or are gone', () => {
  expect(saidBy(['a'], byId)).toBe('Hang it high')
  expect(saidBy(['a', 'b', 'gone', 'c'], byId)).toBe('Hang it high by the door.')
  expect(saidBy(['gone'], byId)).toBe('')
  expect(saidBy([], byId)).toBe('')
})

test('how far a caption is comes of its words, of what was said of it, and of what its source says now', () => {
  const written = caption('t', 'Häng sie hoch')
  expect(standingOf(caption('t', ''), link({}), 'x')).toBe('empty')
  expect(standingOf(caption('t', ''), link({ progress: 'later' }), 'x')).toBe('later')
  expect(standingOf(written, link({}), 'x')).toBe('begun')
  expect(standingOf(written, link({ progress: 'draft', said: 'x' }), 'x')).toBe('draft')
  expect(standingOf(written, link({ progress: 'done', said: 'x' }), 'x')).toBe('done')
  expect(standingOf(written, link({ progress: 'done', said: 'x' }), 'y')).toBe('changed')
  // What was confirmed without a source is not of another one now.
  expect(standingOf(written, link({ progress: 'done' }), 'y')).toBe('done')
})
