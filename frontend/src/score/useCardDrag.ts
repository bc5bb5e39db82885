/** Dragging a caption's in, its out, or all of the selected ones, on frames. */
import { onScopeDispose } from 'vue'

import type { Geometry } from '@/score/geometry'
import { useSelection } from '@/score/selectionStore'
import { useProject } from '@/project/projectStore'
import { newId, useTrack } from '@/project/trackStore'
import { snap, startOfFrame } from '@/shared/time'

export type Grip = 'in' | 'out' | 'whole'

/** Pixels the pointer moves before a press becomes a drag. */
const THRESHOLD = 4

interface Start {
  pointerY: number
  scrollTop: number
  grip: Grip
  gesture: string
  times: { caption: string; in_ms: number; out_ms: number }[]
  moving: boolean
}

export function useCardDrag(geometry: () => Geometry, page: () => HTMLElement | null) {
  const track = useTrack()
  const selection = useSelection()
  const project = useProject()
  let start: Start | null = null

  function begin(event: PointerEvent, id: string, grip: Grip) {
    if (event.button !== 0 || geometry().rows) return
    const ids = grip === 'whole' && selection.ids.has(id) ? selection.ids : new Set([id])
    start = {
      pointerY: event.clientY,
      scrollTop: page()?.scrollTop ?? 0,
      grip,
      gesture: newId(),
      times: track.captions
        .filter((caption) => ids.has(caption.id))
        .map(({ id: caption, in_ms, out_ms }) => ({ caption, in_ms, out_ms })),
      moving: false,
    }
    window.addEventListener('pointermove', move)
    window.addEventListener('pointerup', end)
    window.addEventListener('pointercancel', end)
  }

  function move(event: PointerEvent) {
    if (!start) return
    const scrolled = (page()?.scrollTop ?? 0) - start.scrollTop
    const pixels = event.clientY - start.pointerY + scrolled
    if (!start.moving && Math.abs(pixels) < THRESHOLD) return
    start.moving = true
    const times = dragged(start, geometry().ms(Math.abs(pixels)) * Math.sign(pixels))
    track.edit({ kind: 'retime-captions', times }, start.gesture)
  }

  function dragged({ times, grip }: Start, byMs: number) {
    const rate = project.rate
    const least = startOfFrame(1, rate)
    if (grip === 'whole') {
      // All move by the same whole frames, and none below zero.
      const first = Math.min(...times.map((entry) => entry.in_ms))
      const by = snap(Math.max(first + byMs, 0), rate) - first
      return times.map((entry) => ({ ...entry, in_ms: entry.in_ms + by, out_ms: entry.out_ms + by }))
    }
    return times.map((entry) => {
      if (grip === 'in') {
        const latest = snap(entry.out_ms - least, rate)
        return { ...entry, in_ms: Math.min(snap(Math.max(entry.in_ms + byMs, 0), rate), latest) }
      }
      const earliest = snap(entry.in_ms + least, rate)
      return { ...entry, out_ms: Math.max(snap(entry.out_ms + byMs, rate), earliest) }
    })
  }

  function end() {
    window.removeEventListener('pointermove', move)
    window.removeEventListener('pointerup', end)
    window.removeEventListener('pointercancel', end)
    start = null
  }

  onScopeDispose(end)
  return { begin }
}
