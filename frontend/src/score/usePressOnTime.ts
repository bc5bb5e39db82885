/** Presses on time itself: on the sound they move the playhead, and a drag over empty time makes a caption. */
import { type Ref, ref } from 'vue'

import { snap } from '@/kit/time'
import { usePlayer } from '@/picture/playerStore'
import type { Geometry } from '@/score/geometry'
import { useSelection } from '@/score/selectionStore'
import { useProject } from '@/session/projectStore'
import { newCaption, newId, useTrack } from '@/session/tracksStore'

/** Pixels a pointer moves before a press on empty time becomes a caption. */
const LEAST_DRAG = 10

export function usePressOnTime(page: Ref<HTMLElement | null>, geometry: Ref<Geometry>) {
  const project = useProject()
  const track = useTrack()
  const player = usePlayer()
  const selection = useSelection()
  /** The caption that a drag over empty time would make. */
  const drafted = ref<{ in_ms: number; out_ms: number } | null>(null)

  function timeUnder(event: PointerEvent): number {
    const rect = page.value!.getBoundingClientRect()
    return snap(geometry.value.ms(event.clientY - rect.top + page.value!.scrollTop), project.rate)
  }

  function scrub(event: PointerEvent) {
    if (event.button !== 0) return
    const target = event.currentTarget as HTMLElement
    target.setPointerCapture(event.pointerId)
    player.place(timeUnder(event))
    const move = (moved: PointerEvent) => player.scrub(timeUnder(moved))
    target.addEventListener('pointermove', move)
    target.addEventListener('pointerup', () => target.removeEventListener('pointermove', move), { once: true })
  }

  /** A press on empty time goes there; a drag over it makes a caption as long as the drag. */
  function pressedEmpty(event: PointerEvent) {
    if (event.target !== event.currentTarget || event.button !== 0 || event.shiftKey || event.ctrlKey) return
    const target = event.currentTarget as HTMLElement
    const from = timeUnder(event)
    selection.only(null)
    player.place(from)
    if (geometry.value.rows) return
    target.setPointerCapture(event.pointerId)
    const move = (moved: PointerEvent) => {
      const to = timeUnder(moved)
      const long = Math.abs(moved.clientY - event.clientY) >= LEAST_DRAG
      drafted.value = long ? { in_ms: Math.min(from, to), out_ms: Math.max(from, to) } : null
    }
    const end = () => {
      target.removeEventListener('pointermove', move)
      const times = drafted.value
      drafted.value = null
      if (!times || times.out_ms <= times.in_ms) return
      const caption = newCaption(times.in_ms, times.out_ms)
      track.edit({ kind: 'insert-captions', captions: [caption] }, newId())
      selection.write(caption.id)
    }
    target.addEventListener('pointermove', move)
    target.addEventListener('pointerup', end, { once: true })
  }

  return { drafted, scrub, pressedEmpty }
}
