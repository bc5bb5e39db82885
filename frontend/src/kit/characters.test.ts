import { describe, expect, it } from 'vitest'

import { unitAt } from '@/kit/characters'

describe('a place in a text', () => {
  it('is the same in its string where all characters are of the basic plane', () => {
    expect([0, 3, 9].map((place) => unitAt('a fog bell', place))).toEqual([0, 3, 9])
  })

  it('is one further behind each character of another plane', () => {
    const text = 'a🔔b🔔c'
    expect([0, 1, 2, 3, 4, 5].map((place) => unitAt(text, place))).toEqual([0, 1, 3, 4, 6, 7])
    expect(text.slice(unitAt(text, 2), unitAt(text, 3))).toBe('b')
  })
})
