/** Moves the window of the version that is shown: at the moment that the playhead is behind, one gesture for as long as it goes on. */
import { computed } from 'vue'

import { usePlayer } from '@/picture/playerStore'
import { inForce, placeAt, type WindowMoment, withMoment } from '@/picture/windowAt'
import { goingOn } from '@/session/goingOn'
import { newId } from '@/session/identity'
import { useProject } from '@/session/projectStore'
import { useVersions, type Version } from '@/session/versionsStore'
import { frameAt, snap } from '@/kit/time'

/** A cut falls on a shot change that is as near as this. */
const NEAR_MS = 600

const within = (part: number) => Math.round(Math.min(Math.max(part, 0), 1) * 1000) / 1000

export function useVersionWindow() {
  const versions = useVersions()
  const player = usePlayer()
  const project = useProject()

  const version = computed(() => versions.shown?.version)
  const moments = computed<readonly WindowMoment[]>(() => version.value?.moments ?? [])
  /** Whether the film is larger than the window, across it and down it. */
  const room = computed(() => {
    const film = project.project?.film
    const window = versions.shown?.window
    if (!film || !window || version.value?.whole || !version.value?.shape) return { across: false, down: false }
    return { across: film.width - window.width > 2, down: film.height - window.height > 2 }
  })
  const canMove = computed(() => room.value.across || room.value.down)
  const ms = computed(() => Math.round(player.timeMs))
  const place = computed(() => placeAt(moments.value, ms.value))
  const current = computed(() => inForce(moments.value, ms.value))

  const gestureOf = goingOn()
  function change(values: Partial<Version>, what: string) {
    const { id, version: now } = versions.shown!
    return versions.put(id, { ...now, ...values }, gestureOf(`${id} ${what}`))
  }

  /** The moments with the window elsewhere, as the one in force says. */
  function movedTo(to: { x: number; y: number }): WindowMoment[] {
    const at = Math.max(current.value, 0)
    const moment = moments.value[at] ?? { at_ms: 0, comes: 'cut' as const }
    return withMoment(moments.value, { ...moment, x: within(to.x), y: within(to.y) })
  }
  const move = (by: { x?: number; y?: number }) =>
    void change({ moments: movedTo({ x: place.value.x + (by.x ?? 0), y: place.value.y + (by.y ?? 0) }) }, `move ${current.value}`)
  /** Shows it elsewhere while a hand holds it, and stores that once it lets go. */
  const holdAt = (to: { x: number; y: number }) => versions.show(versions.shown!.id, { ...version.value!, moments: movedTo(to) })
  const letGo = () => void change({ moments: [...moments.value] }, newId())

  const shotNear = (at: number) =>
    (project.project?.shots ?? []).filter((shot) => Math.abs(shot - at) <= NEAR_MS).toSorted((a, b) => Math.abs(a - at) - Math.abs(b - at))[0]

  /** Has the window stay where it is from the playhead on; a cut falls on a shot change that is near. */
  function setMoment() {
    const here = place.value
    const at_ms = shotNear(ms.value) ?? snap(ms.value, project.rate)
    const first: WindowMoment[] = moments.value.length || !at_ms ? [...moments.value] : [{ at_ms: 0, ...here, comes: 'cut' }]
    const known = first.find((moment) => moment.at_ms === at_ms)
    void change({ moments: withMoment(first, { comes: 'cut', ...known, at_ms, x: within(here.x), y: within(here.y) }) }, newId())
    if (at_ms > player.timeMs) player.place(at_ms)
  }
  /** Whether the window glides to the moment in force, or is there at once. */
  function toggleGlide() {
    const moment = moments.value[current.value]
    if (moment) void change({ moments: withMoment(moments.value, { ...moment, comes: moment.comes === 'glide' ? 'cut' : 'glide' }) }, newId())
  }
  function removeMoment() {
    const moment = moments.value[current.value]
    if (moment) void change({ moments: moments.value.filter((other) => other !== moment) }, newId())
  }
  function goTo(direction: 1 | -1) {
    const frame = (at: number) => frameAt(at, project.rate)
    const beside = direction === 1 ? moments.value.find(({ at_ms }) => frame(at_ms) > player.frameNumber) : moments.value.findLast(({ at_ms }) => frame(at_ms) < player.frameNumber)
    if (beside) player.place(beside.at_ms)
  }

  return { version, moments, current, place, room, canMove, change, move, holdAt, letGo, setMoment, toggleGlide, removeMoment, goTo }
}
