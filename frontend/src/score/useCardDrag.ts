/** Dragging a caption's in, its out, the seam to the next, or all of the selected ones. */
import { useStorage } from '@vueuse/core'
import { onScopeDispose } from 'vue'

import type { Stretch, Times } from '@/stages/time/timingStore'
import type { Geometry } from '@/score/geometry'
import { useSelection } from '@/score/selectionStore'
import { drawn, near, type SnapTo } from '@/score/snapping'
import { useProject } from '@/session/projectStore'
import { retiming } from '@/session/merging'
import { newId, useTrack } from '@/session/tracksStore'
import { snap, startOfFrame } from '@/kit/time'
import { useTiming } from '@/stages/time/timingStore'

export type Grip = 'in' | 'out' | 'whole'

/** Pixels the pointer moves before a press becomes a drag. */
const THRESHOLD = 4
/** Pixels within which an edge is drawn to speech, shot changes and neighbours. */
const REACH = 7

interface Start {
  pointerY: number
  scrollTop: number
  grip: Grip
  gesture: string
  /** The captions that are held, as they were. */
  times: Times[]
  /** All that come after them, for moving them along. */
  later: Times[]
  /** The one whose in meets the held out. */
  follower: Times | null
  before: Times | null
  moving: boolean
}

export const useSnapTo = () =>
  useStorage<SnapTo>('dunlin.snap', { frames: true, speech: true, shots: true, neighbours: true })

const timesOf = ({ id: caption, in_ms, out_ms }: { id: string; in_ms: number; out_ms: number }): Times => ({ caption, in_ms, out_ms })

export function useCardDrag(geometry: () => Geometry, page: () => HTMLElement | null) {
  const track = useTrack()
  const selection = useSelection()
  const project = useProject()
  const timing = useTiming()
  const snapTo = useSnapTo()
  let start: Start | null = null

  const gap = () => project.leastGapMs

  function begin(event: PointerEvent, id: string, grip: Grip) {
    if (event.button !== 0 || geometry().rows) return
    const ids = grip === 'whole' && selection.ids.has(id) ? selection.ids : new Set([id])
    const held = track.captions.filter((caption) => ids.has(caption.id) && !caption.locked)
    if (!held.length) return
    const first = track.captions.findIndex((caption) => ids.has(caption.id))
    const last = track.captions.findLastIndex((caption) => ids.has(caption.id))
    const next = track.captions[last + 1]
    start = {
      pointerY: event.clientY,
      scrollTop: page()?.scrollTop ?? 0,
      grip,
      gesture: newId(),
      times: held.map(timesOf),
      later: track.captions.slice(first + 1).filter((caption) => !ids.has(caption.id) && !caption.locked).map(timesOf),
      follower: next ? timesOf(next) : null,
      before: first > 0 ? timesOf(track.captions[first - 1]!) : null,
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
    const byMs = geometry().ms(Math.abs(pixels)) * Math.sign(pixels)
    const times = dragged(start, byMs, { alongLater: event.shiftKey, seam: event.altKey })
    track.edit(retiming(times), start.gesture)
  }

  /** Where an edge comes to lie: on what it is drawn to, else on a frame. */
  function placed(ms: number, edge: 'in' | 'out', { before, follower }: Start): number {
    const on = snapTo.value
    const within = geometry().ms(REACH)
    const targets: number[] = []
    if (on.speech) {
      const edgeOf = (stretch: Stretch) => (edge === 'in' ? stretch.start_ms : stretch.end_ms)
      targets.push(...near(timing.speech, edgeOf, ms, within).map(edgeOf))
    }
    if (on.shots) {
      const shots = near(project.project?.shots ?? [], (at) => at, ms, within)
      // An out ends a gap before the change, an in begins with it.
      targets.push(...shots.map((shot) => (edge === 'in' ? shot : shot - gap())))
    }
    if (on.neighbours && edge === 'in' && before) targets.push(before.out_ms + gap())
    if (on.neighbours && edge === 'out' && follower) targets.push(follower.in_ms - gap())
    const target = drawn(ms, targets, within)
    return on.frames ? snap(Math.max(target, 0), project.rate) : Math.round(Math.max(target, 0))
  }

  function dragged(from: Start, byMs: number, how: { alongLater: boolean; seam: boolean }): Times[] {
    const { times, grip, later, follower } = from
    const least = startOfFrame(1, project.rate)
    const moved = (list: Times[], by: number) => list.map((entry) => ({ ...entry, in_ms: entry.in_ms + by, out_ms: entry.out_ms + by }))
    const first = times[0]!
    if (grip === 'whole') {
      // All move by the same amount, and none below zero.
      const earliest = Math.min(...times.map((entry) => entry.in_ms))
      const by = placed(Math.max(earliest + byMs, 0), 'in', from) - earliest
      return [...moved(times, by), ...(how.alongLater ? moved(later, by) : [])]
    }
    if (grip === 'in') {
      const in_ms = Math.min(placed(first.in_ms + byMs, 'in', from), first.out_ms - least)
      if (!how.alongLater) return [{ ...first, in_ms }]
      const by = in_ms - first.in_ms
      return [{ ...first, in_ms, out_ms: first.out_ms + by }, ...moved(later, by)]
    }
    const limit = how.seam && follower ? follower.out_ms - least - gap() : Infinity
    const out_ms = Math.min(Math.max(placed(first.out_ms + byMs, 'out', from), first.in_ms + least), limit)
    const changed = [{ ...first, out_ms }]
    if (how.seam && follower) return [...changed, { ...follower, in_ms: out_ms + (follower.in_ms - first.out_ms) }]
    return how.alongLater ? [...changed, ...moved(later, out_ms - first.out_ms)] : changed
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
