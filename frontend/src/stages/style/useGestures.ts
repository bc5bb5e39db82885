/**
 * What a hand does to captions on the picture: move, grow, turn, tilt, and set the width of their lines. Each is drawn as it
 * goes on and stored once, when it is let go.
 */
import { shallowRef } from 'vue'

import { newId } from '@/session/identity'
import { repeatedGesture } from '@/session/repeats'
import { useSelection } from '@/score/selectionStore'
import { boundsOf, direction, type Frame, inHalfTurn, movedBy, type Point, scaledBy } from '@/stages/style/frames'
import { type Guide, guidesOf, snapped } from '@/stages/style/guides'
import { shifted } from '@/stages/style/handLines'
import { useLooks } from '@/stages/style/looksStore'
import type { Values } from '@/styling/looks'

export type Grip = 'move' | 'size' | 'width' | 'turn' | 'tilt-x' | 'tilt-y'

/** How near to a guide it is drawn to, in pixels of the screen. */
const SNAP_PX = 7
/** Turns that are easy to come back to, and how near to one it is drawn to. */
const [EVEN_TURN, NEAR_TURN] = [15, 2]
/** Degrees of tilt for a pixel of the screen. */
const TILT_PER_PX = 0.5
const LEAST_FACTOR = 0.1

/** So exact that a place comes to the same hundredth of a pixel when it is drawn from what is stored. */
const exact = (share: number) => Math.round(share * 1e8) / 1e8
/** Hundredths of a pixel, which the script counts in. */
const hundredths = (pixels: number) => Math.round(pixels * 100) / 100

interface Taken {
  grip: Grip
  at: Point
  /** Frames and lines as they were when it was taken hold of. */
  frames: ReadonlyMap<string, Frame>
  lines: ReadonlyMap<string, string>
  id: string
  moved: boolean
  values: ((id: string) => Values) | null
}

/** @param scale pixels of the screen to one of the picture */
export function useGestures(scale: () => number) {
  const looks = useLooks()
  const selection = useSelection()
  const taken = shallowRef<Taken | null>(null)
  const guides = shallowRef<readonly Guide[]>([])
  /** What the gesture is at, in figures beside the frame. */
  const figure = shallowRef<{ kind: Grip; value: number } | null>(null)

  const selected = () => selection.selected.map(({ id }) => id).filter((id) => looks.byId.has(id))

  function current(): Pick<Taken, 'frames' | 'lines'> {
    const ids = selected()
    return {
      frames: new Map(ids.flatMap((id) => (looks.frameOf(id) ? [[id, looks.frameOf(id)!] as const] : []))),
      lines: new Map(ids.map((id) => [id, looks.linesOf(id)!])),
    }
  }

  function take(grip: Grip, at: Point) {
    const id = selection.currentId
    if (!id || !looks.frameOf(id)) return
    // A second hand on it waits for the first.
    if (taken.value) return
    taken.value = { grip, at, id, moved: false, values: null, ...current() }
    looks.hold()
  }

  function show(frames: Iterable<readonly [string, Frame]>, lines?: Iterable<readonly [string, string]>) {
    looks.frames = new Map([...looks.frames, ...frames])
    if (lines) looks.drawLines(lines)
  }

  /** @param free whether nothing draws it near */
  function drag(to: Point, free: boolean) {
    const now = taken.value
    const frame = now?.frames.get(now.id)
    if (!now || !frame) return
    const [dx, dy] = [to.x - now.at.x, to.y - now.at.y]
    // A press that trembles is none.
    if (!now.moved && Math.hypot(dx, dy) * scale() < 3) return
    now.moved = true
    if (now.grip === 'move') return move(now, frame, dx, dy, free)
    if (now.grip === 'turn') return turn(now, direction(frame, to) - direction(frame, now.at), free)
    if (now.grip === 'tilt-x') return tilt(now, 'tilt_x', (now.at.y - to.y) * scale() * TILT_PER_PX, free)
    if (now.grip === 'tilt-y') return tilt(now, 'tilt_y', (to.x - now.at.x) * scale() * TILT_PER_PX, free)
    if (now.grip === 'size') return grow(now, Math.hypot(to.x - frame.x, to.y - frame.y) / Math.max(Math.hypot(now.at.x - frame.x, now.at.y - frame.y), 1))
    return widen(now, frame, to)
  }

  function move(now: Taken, frame: Frame, dx: number, dy: number, free: boolean) {
    let by = { x: dx, y: dy }
    guides.value = []
    if (!free) {
      const chosen = new Set(now.frames.keys())
      const others = looks.onPicture.filter(({ id }) => !chosen.has(id)).flatMap(({ id }) => looks.frameOf(id) ?? [])
      const all = guidesOf(looks.size.width, looks.size.height, others.map(boundsOf))
      const near = snapped(boundsOf(movedBy(frame, dx, dy)), all, SNAP_PX / scale())
      by = { x: dx + near.x, y: dy + near.y }
      guides.value = near.on
    }
    by = { x: hundredths(by.x), y: hundredths(by.y) }
    show(
      [...now.frames].map(([id, one]) => [id, movedBy(one, by.x, by.y)]),
      [...now.lines].map(([id, lines]) => [id, shifted(lines, { dx: by.x, dy: by.y })]),
    )
    now.values = placeOf
  }

  /** Where a caption is now, as it is stored. */
  function placeOf(id: string): Values {
    const frame = looks.frameOf(id)
    return frame ? { x: inPicture(frame.x / looks.size.width), y: inPicture(frame.y / looks.size.height) } : {}
  }
  const inPicture = (share: number) => Math.min(Math.max(exact(share), 0), 1)

  function turn(now: Taken, by: number, free: boolean) {
    const upright = looks.lookOf(now.id)!
    const wanted = inHalfTurn((upright.turn ?? 0) + by)
    const even = Math.round(wanted / EVEN_TURN) * EVEN_TURN
    const angle = !free && Math.abs(wanted - even) < NEAR_TURN ? even : Math.round(wanted * 10) / 10
    const more = angle - (upright.turn ?? 0)
    show(
      [...now.frames].map(([id, one]) => [id, { ...one, turned: one.turned + more }]),
      [...now.lines].map(([id, lines]) => [id, shifted(lines, { turn: more })]),
    )
    figure.value = { kind: 'turn', value: angle }
    now.values = (id) => ({ turn: inHalfTurn((looks.lookOf(id)?.turn ?? 0) + more) })
  }

  function tilt(now: Taken, property: 'tilt_x' | 'tilt_y', by: number, free: boolean) {
    const before = looks.lookOf(now.id)![property] ?? 0
    const wanted = Math.min(Math.max(before + by, -80), 80)
    const angle = !free && Math.abs(wanted) < NEAR_TURN ? 0 : Math.round(wanted)
    const more = angle - before
    show(
      [...now.frames].map(([id, one]) => [id, { ...one, [property]: one[property] + more }]),
      [...now.lines].map(([id, lines]) => [id, shifted(lines, { [property]: more })]),
    )
    figure.value = { kind: now.grip, value: angle }
    now.values = (id) => ({ [property]: (looks.lookOf(id)?.[property] ?? 0) + more })
  }

  function grow(now: Taken, factor: number) {
    const by = Math.max(factor, LEAST_FACTOR)
    const sized = (id: string): Values => {
      const look = looks.lookOf(id)
      const size = Math.min(Math.max(exact((look?.size ?? 0.07) * by), 0.005), 2)
      // A shape grows in both directions, and does so by itself from moment to moment; words keep the room that they have.
      return look?.shape && look.width && !look.moments ? { size, width: exact(look.width * by) } : { size }
    }
    show([...now.frames].map(([id, one]) => [id, scaledBy(one, by)]))
    figure.value = { kind: 'size', value: Math.round(sized(now.id).size! * looks.base) }
    now.values = sized
    void looks.tryOut((caption) => sized(caption.id), looks.placeDestination)
  }

  function widen(now: Taken, frame: Frame, to: Point) {
    const look = looks.lookOf(now.id)!
    const angle = (-frame.turned * Math.PI) / 180
    const along = (to.x - frame.x) * Math.cos(angle) - (to.y - frame.y) * Math.sin(angle)
    const reach = look.align === 'center' ? Math.abs(along) * 2 : Math.abs(along)
    const width = Math.min(Math.max(reach / looks.size.width, 0.02), 1)
    const left = look.align === 'center' ? frame.x - reach / 2 : look.align === 'left' ? frame.x : frame.x - reach
    show([[now.id, { ...frame, left, right: left + reach }]])
    figure.value = { kind: 'width', value: Math.round(width * 100) }
    const values = { width: exact(width) }
    now.values = () => values
    void looks.tryOut(() => values, looks.placeDestination)
  }

  /** Lets go: what was done is stored, in one step. Gives whether something was. */
  function release(): boolean {
    const now = taken.value
    if (!now) return false
    taken.value = null
    guides.value = []
    figure.value = null
    const { values } = now
    // Places are taken down before the frames are given back.
    const plan = values && new Map([...now.frames.keys()].map((id) => [id, values(id)]))
    void looks.letGo(plan ? looks.set((caption) => plan.get(caption.id) ?? {}, newId(), looks.placeDestination) : Promise.resolve())
    return now.moved
  }

  /** Lets go, and all is as it was. */
  function giveUp() {
    if (!taken.value) return
    taken.value.values = null
    release()
  }

  const keyGesture = repeatedGesture()

  /** Moves what is selected by pixels of the picture, by key. */
  function nudge(dx: number, dy: number) {
    if (taken.value) return
    const { frames, lines } = current()
    if (!frames.size) return
    looks.hold()
    show(
      [...frames].map(([id, frame]) => [id, movedBy(frame, dx, dy)]),
      [...lines].map(([id, one]) => [id, shifted(one, { dx, dy })]),
    )
    const plan = new Map([...frames.keys()].map((id) => [id, placeOf(id)]))
    void looks.letGo(looks.set((caption) => plan.get(caption.id) ?? {}, keyGesture('move'), looks.placeDestination))
  }

  /** Makes what is selected larger or smaller by a pixel of its letters' height, by key. */
  function resize(direction: 1 | -1) {
    const by = direction / looks.base
    void looks.settle((_, look) => ({ size: Math.max(exact((look.size ?? 0.07) + by), 0.005) }), keyGesture('size'))
  }

  /** Turns what is selected, or tilts it in depth, by degrees, by key. */
  function turnBy(property: 'turn' | 'tilt_x' | 'tilt_y', degrees: number) {
    void looks.settle((_, look) => ({ [property]: inHalfTurn((look[property] ?? 0) + degrees) }), keyGesture(property), looks.placeDestination)
  }

  return { taken, guides, figure, take, drag, release, giveUp, nudge, resize, turnBy }
}
