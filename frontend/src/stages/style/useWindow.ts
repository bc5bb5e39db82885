/** The window that a caption is seen through, or behind, as it is drawn on the picture: moved, bent, and given more corners. */
import { computed, ref, shallowRef, watch } from 'vue'

import { useSelection } from '@/score/selectionStore'
import { boundsOf, type Point } from '@/stages/style/frames'
import { useLooks } from '@/stages/style/looksStore'
import { isShape } from '@/session/captions'
import { onPicture, valuesOfOutline } from '@/stages/style/shapes'
import type { Values } from '@/styling/looks'
import { bendThrough, boxOutline, type Corner, cornersOfPath, movedOutline, pathOfCorners, seenThrough, withCorner } from '@/stages/style/outlines'

/** What of the window a hand has: all of it, a corner, or the middle of a side. */
export interface WindowGrip {
  part: 'all' | 'corner' | 'side'
  index: number
}

/** Around the letters, in heights of the picture, a new window has room. */
const ROOM = 0.03
const FEWEST = 3

export function useWindow() {
  const looks = useLooks()
  const selection = useSelection()
  const editing = ref(false)
  const live = shallowRef<readonly Corner[] | null>(null)
  const taken = shallowRef<{ grip: WindowGrip; at: Point; before: readonly Corner[] } | null>(null)

  /** Of a shape it is the shape's own outline that is moved and bent. */
  const ofShape = computed(() => isShape(selection.current))
  const stored = computed(() => (ofShape.value ? null : (looks.current?.look.window ?? null)))
  const keeps = computed(() => looks.current?.look.window_keeps ?? 'inside')
  const corners = computed<readonly Corner[] | null>(() => live.value ?? (ofShape.value ? shapeCorners() : stored.value ? cornersOfPath(stored.value) : null))
  watch(() => selection.currentId, () => {
    editing.value = false
    live.value = null
  })

  /** A shape's outline on the picture; none of one that is turned, whose corners would be elsewhere. */
  function shapeCorners(): Corner[] | null {
    const frame = selection.currentId ? looks.frameOf(selection.currentId) : null
    const path = looks.current?.look.shape
    if (!editing.value || !frame || !path || frame.turned || frame.tilt_x || frame.tilt_y) return null
    return onPicture(cornersOfPath(path), frame, looks.size.width, looks.size.height)
  }
  const valuesOf = (outline: readonly Corner[]): Values =>
    ofShape.value
      ? valuesOfOutline(outline, looks.current!.look, looks.size.height, looks.base)
      : { window: pathOfCorners(outline) }

  /** Opens a window around the letters where there is none, to be moved and bent. */
  function open() {
    const frame = selection.currentId ? looks.frameOf(selection.currentId) : null
    if (!frame) return
    editing.value = true
    if (stored.value || ofShape.value) return
    const { width, height } = looks.size
    const [left, top, right, bottom] = boundsOf(frame)
    const room = ROOM * height
    const box = boxOutline((left - room) / width, (top - room) / height, (right + room) / width, (bottom + room) / height)
    put(box)
  }

  /** Leaves it as it is. */
  function close() {
    editing.value = false
  }

  function draw(wanted: readonly Corner[]) {
    // As exact as it is stored, so that it is drawn the same before and after.
    const next = cornersOfPath(pathOfCorners(wanted))
    live.value = next
    if (ofShape.value) return void looks.tryOut(valuesOf(next), looks.placeDestination)
    const id = selection.currentId
    const lines = id && looks.linesOf(id)
    if (!id || !lines) return
    const { width, height } = looks.size
    looks.drawLines([[id, seenThrough(lines, next, keeps.value, width, height)]])
  }

  const part = (point: Point): Point => ({ x: point.x / looks.size.width, y: point.y / looks.size.height })

  function take(grip: WindowGrip, at: Point) {
    if (!corners.value || taken.value) return
    taken.value = { grip, at: part(at), before: corners.value }
    looks.hold()
  }

  function drag(to: Point) {
    const now = taken.value
    if (!now) return
    const at = part(to)
    const { part: what, index } = now.grip
    if (what === 'all') return draw(movedOutline(now.before, at.x - now.at.x, at.y - now.at.y))
    draw(now.before.map((corner, n) => (n !== index ? corner : what === 'corner' ? { ...corner, ...at } : { ...corner, bend: bendThrough(now.before, index, at) })))
  }

  function release() {
    const now = taken.value
    if (!now) return
    taken.value = null
    const next = live.value
    void looks.letGo(next && next !== now.before ? looks.set(valuesOf(next), undefined, looks.placeDestination) : Promise.resolve()).then(() => {
      if (!taken.value) live.value = null
    })
  }

  /** Has it so. Until that was read again, it is what there is to go on from. */
  function put(next: readonly Corner[]) {
    live.value = next
    void looks.settle(valuesOf(next), undefined, looks.placeDestination).then(() => {
      if (live.value === next) live.value = null
    })
  }

  /** Moves all of it by pixels of the picture, by key. */
  function nudge(dx: number, dy: number) {
    if (corners.value) put(movedOutline(corners.value, dx / looks.size.width, dy / looks.size.height))
  }
  const addCorner = (index: number) => corners.value && put(withCorner(corners.value, index))
  const removeCorner = (index: number) => corners.value && corners.value.length > FEWEST && put(corners.value.filter((_, n) => n !== index))

  function takeAway() {
    editing.value = false
    live.value = null
    if (ofShape.value) return
    void looks.settle({ window: null, window_keeps: null }, undefined, looks.placeDestination)
  }

  return { editing, corners, taken, open, close, take, drag, release, nudge, addCorner, removeCorner, takeAway }
}
