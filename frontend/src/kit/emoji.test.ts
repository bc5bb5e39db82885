import { describe, expect, it } from 'vitest'

import { pieces } from '@/kit/emoji'

describe('a text in pieces', () => {
  it('stays whole without emoji', () => {
    expect(pieces('12° ♪ la la')).toEqual([{ text: '12° ♪ la la' }])
  })

  it('has an emoji as one piece, however many characters it is made of', () => {
    expect(pieces('a 👩‍🔧 ❤️b')).toEqual([
      { text: 'a ' },
      { text: '👩‍🔧', picture: '/api/emoji/1f469-200d-1f527' },
      { text: ' ' },
      { text: '❤️', picture: '/api/emoji/2764' },
      { text: 'b' },
    ])
  })

  it('leaves an emoji that is to be text to the font', () => {
    expect(pieces('⌚\uFE0E 🇫🇮')).toEqual([{ text: '⌚\uFE0E ' }, { text: '🇫🇮', picture: '/api/emoji/1f1eb-1f1ee' }])
  })

  it('loses nothing', () => {
    const text = 'x👍🏽\n🔔🔔 ☂️y'
    expect(pieces(text).map((piece) => piece.text).join('')).toBe(text)
  })
})
