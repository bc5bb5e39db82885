/** What a hand does to the box on the picture that is followed: moves, sizes and turns it, or draws another. */
import { shallowRef } from 'vue'

import { cornersOf, covers, direction, type Point } from '@/stages/style/frames'
import { useLooks } from '@/stages/style/looksStore'
import { type Box, boxBetween, boxWithCorner, frameOfBox } from '@/stages/style/paths'
import { useSticking } from '@/stages/style/stickingStore'

export type MarkGrip = 'move' | 'turn' | 0 | 1 | 2 | 3

interface Taken {
  grip: MarkGrip | 'new'
  at: Point
  before: Box
}

/** A new box is no smaller than this, in pixels of the picture. */
const LEAST_PX = 12

export function useMarkHand() {
  const looks = useLooks()
  const sticking = useSticking()
  const taken = shallowRef<Taken | null>(null)

  /** @param grip a corner by its place in `cornersOf`; null for the picture itself */
  function take(grip: MarkGrip | null, at: Point) {
    const before = sticking.box
    if (!before || taken.value) return
    taken.value = { grip: grip ?? (covers(frameOfBox(before, looks.size), at) ? 'move' : 'new'), at, before }
  }

  function drag(to: Point) {
    const now = taken.value
    if (now) sticking.live = boxAt(now, to)
  }

  function boxAt({ grip, at, before }: Taken, to: Point): Box {
    const { width, height } = looks.size
    const frame = frameOfBox(before, looks.size)
    if (grip === 'move') return { ...before, x: before.x + (to.x - at.x) / width, y: before.y + (to.y - at.y) / height }
    if (grip === 'turn') return { ...before, turn: before.turn + direction(frame, to) - direction(frame, at) }
    if (grip !== 'new') return boxWithCorner(before, cornersOf(frame)[(grip + 2) % 4]!, to, looks.size)
    return Math.min(Math.abs(to.x - at.x), Math.abs(to.y - at.y)) < LEAST_PX ? before : boxBetween(at, to, looks.size)
  }

  function release() {
    taken.value = null
    if (sticking.live) sticking.put(sticking.live)
  }

  function giveUp() {
    taken.value = null
    sticking.live = null
  }

  return { taken, take, drag, release, giveUp }
}
