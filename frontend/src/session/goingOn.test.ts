import { afterEach, beforeEach, expect, it, vi } from 'vitest'

import { goingOn } from '@/session/goingOn'

beforeEach(() => void vi.useFakeTimers())
afterEach(() => void vi.useRealTimers())

it('is one gesture for as long as the same thing is turned', () => {
  const gestureOf = goingOn()
  const first = gestureOf('size')
  vi.advanceTimersByTime(1500)
  expect(gestureOf('size')).toBe(first)
  vi.advanceTimersByTime(1500)
  expect(gestureOf('size')).toBe(first)
  const other = gestureOf('height')
  expect(other).not.toBe(first)
  expect(gestureOf('size')).not.toBe(first)
  vi.advanceTimersByTime(2500)
  expect(gestureOf('height')).not.toBe(other)
})
