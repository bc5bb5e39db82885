import { expect, test } from 'vitest'

import { tagOfLanguage } from '@/kit/languages'

test('a language is written by its name or its tag', () => {
  expect(tagOfLanguage(' German ')).toBe('de')
  expect(tagOfLanguage('brazilian portuguese')).toBe('pt-BR')
  expect(tagOfLanguage('de')).toBe('de')
  expect(tagOfLanguage('sr-Latn')).toBe('sr-Latn')
})

test('what is no language yet is none', () => {
  expect(tagOfLanguage('')).toBe('')
  expect(tagOfLanguage('Germa')).toBe('')
  expect(tagOfLanguage('Ger man!')).toBe('')
})
