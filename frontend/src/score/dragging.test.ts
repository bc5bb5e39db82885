import { describe, expect, it } from 'vitest'

import { type Along, dragged, type Held } from '@/score/dragging'

const times = (caption: string, in_ms: number, out_ms: number) => ({ caption, in_ms, out_ms })
const ROOM = { placed: (ms: number) => ms, least: 40 }
const later = [times('b', 2000, 3000), times('c', 4000, 5000)]
const held = (grip: Held['grip'], touched: Partial<Along> = {}): Held => ({
  grip, times: [times('a', 0, 1000)], later, follower: later[0]!, touched: { later: false, seam: false, ...touched },
})
const nothing = { later: false, seam: false }

describe('a drag', () => {
  it('moves an edge, and no further than the caption is long', () => {
    expect(dragged(held('out'), -5000, nothing, ROOM)).toEqual([times('a', 0, 40)])
    expect(dragged(held('in'), 5000, nothing, ROOM)).toEqual([times('a', 960, 1000)])
  })

  it('moves what is later by as much as what is held', () => {
    const now = dragged(held('whole', { later: true }), 250, { later: true, seam: false }, ROOM)
    expect(now).toEqual([times('a', 250, 1250), times('b', 2250, 3250), times('c', 4250, 5250)])
  })

  it.each(['whole', 'in', 'out'] as const)('by %s puts what is later back when its key is let go', (grip) => {
    const now = dragged(held(grip, { later: true }), 250, nothing, ROOM)
    expect(now.slice(1)).toEqual(later)
  })

  it('holds the gap of a seam, and puts the seam back', () => {
    const seam = dragged(held('out', { seam: true }), 250, { later: false, seam: true }, ROOM)
    expect(seam).toEqual([times('a', 0, 1250), times('b', 2250, 3000)])
    expect(dragged(held('out', { seam: true }), 250, nothing, ROOM)).toEqual([times('a', 0, 1250), later[0]])
  })

  it('of a seam never makes the next one too short', () => {
    const [first, second] = dragged(held('out', { seam: true }), 9000, { later: false, seam: true }, ROOM)
    expect(second!.in_ms).toBeLessThan(second!.out_ms)
    expect(first!.out_ms + 1000).toBe(second!.in_ms)
  })
})
