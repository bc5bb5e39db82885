import { expect, it } from 'vitest'

import type { Caption } from '@/session/captions'
import { unknownPlaces } from '@/session/unknownWords'

const told = (words: string, waived: string | null = null) =>
  ({ findings: [{ rule: 'spelling', waived, message: { code: 'findings.spelling', values: { words } } }] }) as unknown as Caption

it('finds the words that are told wherever they stand whole', () => {
  const text = 'Glocek an Glocek, Glockenturm'
  expect(unknownPlaces(told('Glocek'), text).map(({ start, end }) => text.slice(start, end))).toEqual(['Glocek', 'Glocek'])
  expect(unknownPlaces(told('Glock'), text)).toEqual([])
})

it('tells nothing of what was waived, or of captions without such a finding', () => {
  expect(unknownPlaces(told('Glocek', 'a name'), 'Glocek')).toEqual([])
  expect(unknownPlaces({ findings: [] }, 'Glocek')).toEqual([])
})
