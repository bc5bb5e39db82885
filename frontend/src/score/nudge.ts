/** How far a nudge key moves an edge. */
import { useStorage } from '@vueuse/core'

import { moveFrames, type FrameRate } from '@/kit/time'

/** `f` counts frames. */
export const NUDGES = ['1f', '2f', '5f', '10ms', '100ms', '500ms'] as const
export type Nudge = (typeof NUDGES)[number]

export const useNudge = () => useStorage<Nudge>('dunlin.nudge', '1f')

export function nudgedBy(ms: number, direction: 1 | -1, nudge: Nudge, rate: FrameRate): number {
  const amount = parseInt(nudge) * direction
  return nudge.endsWith('f') ? moveFrames(ms, amount, rate) : Math.max(ms + amount, 0)
}
