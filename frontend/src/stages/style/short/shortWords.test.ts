import { describe, expect, it } from 'vitest'

import { spokenAt, wordsOf } from '@/stages/style/short/shortWords'

const span = (text: string, start_ms?: number, more: object = {}) => ({ text, ...(start_ms === undefined ? {} : { spoken: { start_ms, end_ms: start_ms + 200, ...more } }) })
const caption = (...spans: object[]) => ({ spans }) as never

describe('words of a caption in short form', () => {
  it('are parted by spaces and lines, each with where it begins and when it is spoken', () => {
    const words = wordsOf(caption(span('it', 100), span(' '), span('rained', 300, { emphasis: 1 }), span('\n'), span('twice', 600)))
    expect(words.map(({ text, offset, start_ms, emphasis }) => [text, offset, start_ms, emphasis])).toEqual([
      ['it', 0, 100, 0], ['rained', 3, 300, 1], ['twice', 10, 600, 0],
    ])
  })

  it('are one where a part of it is in another style, and two where somebody typed a space', () => {
    expect(wordsOf(caption(span('ev', 100), span('ening', 100), span(' and', 400))).map(({ text }) => text)).toEqual(['evening', 'and'])
    expect(wordsOf(caption(span('one two', 100))).map(({ text, offset }) => [text, offset])).toEqual([['one', 0], ['two', 4]])
  })

  it('are told from when they begin until the next one does', () => {
    const words = wordsOf(caption(span('it', 100), span(' '), span('rained', 300)))
    expect([50, 100, 299, 300, 9000].map((ms) => spokenAt(words, ms))).toEqual([-1, 0, 0, 1, 1])
  })
})
