/** Dragging a caption's in, its out, the seam to the next, or all of the selected ones. */
import { useStorage } from '@vueuse/core'
import { onScopeDispose } from 'vue'

import type { Stretch, Times } from '@/stages/time/timingStore'
import type { Geometry } from '@/score/geometry'
import { useSelection } from '@/score/selectionStore'
import { type Along, dragged, type Grip, type Held } from '@/score/dragging'
import { drawn, near, type SnapTo } from '@/score/snapping'
import { useProject } from '@/session/projectStore'
import { retiming } from '@/session/merging'
import { newId, useTrack } from '@/session/tracksStore'
import { snap, startOfFrame } from '@/kit/time'
import { useTiming } from '@/stages/time/timingStore'

/** Pixels the pointer moves before a press becomes a drag. */
const THRESHOLD = 4
/** Pixels within which an edge is drawn to speech, shot changes and neighbours. */
const REACH = 7
/** So many captions that moving all of them with each step of the pointer would be felt. */
const MANY = 200

interface Start extends Held {
  pointerY: number
  scrollTop: number
  gesture: string
  before: Times | null
  /** Where the pointer has dragged to, once a press has become a drag. */
  dragged: { byMs: number; along: Along } | null
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
      dragged: null,
      touched: { later: false, seam: false },
    }
    window.addEventListener('pointermove', move)
    window.addEventListener('pointerup', end)
    window.addEventListener('pointercancel', end)
  }

  function move(event: PointerEvent) {
    if (!start) return
    const scrolled = (page()?.scrollTop ?? 0) - start.scrollTop
    const pixels = event.clientY - start.pointerY + scrolled
    if (!start.dragged && Math.abs(pixels) < THRESHOLD) return
    const byMs = geometry().ms(Math.abs(pixels)) * Math.sign(pixels)
    const seam = event.altKey && start.grip === 'out'
    const along = { later: event.shiftKey && !seam, seam }
    start.dragged = { byMs, along }
    start.touched = { later: start.touched.later || along.later, seam: start.touched.seam || seam }
    if (isGreat(start)) track.show(retiming(timesNow(start, inSight(start.later, byMs))))
    else send(start)
  }

  /** Whether it moves so much that all of it is moved when the pointer lets go, and before that what is in sight. */
  const isGreat = (held: Start) => held.touched.later && held.later.length > MANY

  function send(held: Start) {
    track.edit(retiming(timesNow(held, held.later)), held.gesture)
  }

  function timesNow(held: Start, later: Times[]): Times[] {
    const { byMs, along } = held.dragged!
    const room = { placed: (ms: number, edge: 'in' | 'out') => placed(ms, edge, held), least: startOfFrame(1, project.rate) }
    return dragged({ ...held, later }, byMs, along, room)
  }

  /** Those that are in sight, or would be, when they are moved. */
  function inSight(later: Times[], byMs: number): Times[] {
    const { scrollTop, clientHeight } = page()!
    const from = geometry().ms(scrollTop) - Math.abs(byMs)
    const to = geometry().ms(scrollTop + clientHeight) + Math.abs(byMs)
    return later.filter(({ in_ms, out_ms }) => out_ms > from && in_ms < to)
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

  function end() {
    window.removeEventListener('pointermove', move)
    window.removeEventListener('pointerup', end)
    window.removeEventListener('pointercancel', end)
    if (start?.dragged && isGreat(start)) send(start)
    start = null
  }

  onScopeDispose(end)
  return { begin }
}
