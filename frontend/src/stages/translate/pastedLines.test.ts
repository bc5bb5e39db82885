import { expect, it } from 'vitest'

import type { Caption } from '@/session/captions'
import { pastedLines } from '@/stages/translate/pastedLines'

const caption = (id: string, text = '') => ({ id, spans: text ? [{ text }] : [], extras: [] }) as unknown as Caption

it('gives a line to each caption from one on, and tells what is over', () => {
  const captions = [caption('a', 'Here'), caption('b'), caption('c')]
  expect(pastedLines('One\r\n\n  Two \nThree', captions, 1)).toEqual({
    changes: [{ caption: 'b', text: 'One' }, { caption: 'c', text: 'Two' }],
    written: undefined,
    over: 1,
  })
})

it('names the first caption that would lose its text', () => {
  expect(pastedLines('One\nTwo', [caption('a'), caption('b', 'Here')], 0).written?.id).toBe('b')
  expect(pastedLines('One', [caption('a'), caption('b', 'Here')], 0).written).toBeUndefined()
})
