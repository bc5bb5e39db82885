import { describe, expect, it } from 'vitest'

import { drawn, near } from './snapping'

describe('drawn', () => {
  it('goes to the nearest target within reach', () => {
    expect(drawn(1000, [880, 1060, 1300], 100)).toBe(1060)
  })
  it('stays where nothing is near', () => {
    expect(drawn(1000, [800, 1300], 100)).toBe(1000)
    expect(drawn(1000, [], 100)).toBe(1000)
  })
  it('reaches a target at the very end of its reach', () => {
    expect(drawn(1000, [1100], 100)).toBe(1100)
  })
})

describe('near', () => {
  const times = [0, 100, 200, 300, 400]
  it('finds what lies around a time', () => {
    expect(near(times, (ms) => ms, 210, 100)).toEqual([200, 300])
  })
  it('finds nothing beyond the ends', () => {
    expect(near(times, (ms) => ms, 900, 100)).toEqual([])
    expect(near([], (ms: number) => ms, 0, 100)).toEqual([])
  })
})
