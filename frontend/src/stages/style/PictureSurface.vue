<script setup lang="ts">
/** The picture as a surface: frames around the letters of captions, with what moves, sizes, turns and tilts them. */
import { useElementSize, useEventListener } from '@vueuse/core'
import { computed, onBeforeUnmount, ref } from 'vue'
import { useI18n } from 'vue-i18n'

import { usePlayer } from '@/picture/playerStore'
import { useCommands } from '@/kit/commands/commands'
import { takesText } from '@/kit/commands/keys'
import { useSelection } from '@/score/selectionStore'
import ColourGlass from '@/stages/style/ColourGlass.vue'
import { cornersOf, covers, type Frame, type Point, pointAt } from '@/stages/style/frames'
import { SAFE } from '@/stages/style/guides'
import { useLooks } from '@/stages/style/looksStore'
import MarkOutline from '@/stages/style/MarkOutline.vue'
import { usePicking } from '@/stages/style/pickingStore'
import { useSticking } from '@/stages/style/stickingStore'
import type { Grip, useGestures } from '@/stages/style/useGestures'
import { type MarkGrip, useMarkHand } from '@/stages/style/useMarkHand'
import type { useWindow, WindowGrip } from '@/stages/style/useWindow'
import WindowOutline from '@/stages/style/WindowOutline.vue'

const props = defineProps<{ gestures: ReturnType<typeof useGestures>; window: ReturnType<typeof useWindow>; guidesShown: boolean }>()
const emit = defineEmits<{ words: [] }>()

const { t } = useI18n()
const looks = useLooks()
const player = usePlayer()
const selection = useSelection()
const picking = usePicking()
const sticking = useSticking()
const markHand = useMarkHand()
const glass = ref<InstanceType<typeof ColourGlass> | null>(null)

const surface = ref<SVGSVGElement | null>(null)
const shownSize = useElementSize(surface)
const width = computed(() => looks.size.width)
const height = computed(() => looks.size.height)
const scale = computed(() => (shownSize.width.value || width.value) / width.value)
/** So many pixels of the screen, in those of the picture. */
const px = (pixels: number) => pixels / scale.value

const path = (frame: Frame) => cornersOf(frame).map(({ x, y }) => `${x.toFixed(2)},${y.toFixed(2)}`).join(' ')

const shown = computed(() =>
  player.playing ? [] : looks.onPicture.flatMap(({ id }) => {
    const frame = looks.frameOf(id)
    return frame ? [{ id, frame, points: path(frame), chosen: selection.ids.has(id) }] : []
  }),
)
const current = computed(() => shown.value.find(({ id }) => id === selection.currentId))

interface Handle extends Point {
  grip: Grip
  name: string
  shape: 'square' | 'bar' | 'ring' | 'moon-x' | 'moon-y'
  turned: number
}
const handles = computed<Handle[]>(() => {
  const frame = current.value?.frame
  if (!frame) return []
  const at = (grip: Grip, name: string, shape: Handle['shape'], across: number, down: number, beyond?: Point): Handle => ({
    grip, name, shape, turned: frame.turned, ...pointAt(frame, across, down, beyond),
  })
  const out = px(16)
  return [
    at('width', 'left', 'bar', 0, 0.5),
    at('width', 'right', 'bar', 1, 0.5),
    at('size', 'top-left', 'square', 0, 0),
    at('size', 'top-right', 'square', 1, 0),
    at('size', 'bottom-right', 'square', 1, 1),
    at('size', 'bottom-left', 'square', 0, 1),
    at('turn', 'stalk', 'ring', 0.5, 0, { x: 0, y: -px(24) }),
    at('tilt-x', 'below', 'moon-x', 0.5, 1, { x: 0, y: out }),
    at('tilt-y', 'beside', 'moon-y', 0, 0.5, { x: -out, y: 0 }),
  ]
})
const stalk = computed(() => {
  const frame = current.value?.frame
  return frame ? [pointAt(frame, 0.5, 0), pointAt(frame, 0.5, 0, { x: 0, y: -px(24) })] as const : null
})
const moon = (shape: Handle['shape']) => {
  const r = px(7)
  return shape === 'moon-x' ? `M ${-r} 0 A ${r} ${r} 0 0 0 ${r} 0 Z` : `M 0 ${-r} A ${r} ${r} 0 0 0 0 ${r} Z`
}
/** The figure that a gesture is at, beside the frame. */
const figure = computed(() => {
  const { value: now } = props.gestures.figure
  const frame = current.value?.frame
  if (!now || !frame) return null
  const at = pointAt(frame, 1, 0, { x: px(14), y: 0 })
  const unit = now.kind === 'size' ? ' px' : now.kind === 'width' ? ' %' : '°'
  return { ...at, text: `${String(now.value).replace('-', '−')}${unit}` }
})

function pointOf(event: PointerEvent | MouseEvent): Point {
  const box = surface.value!.getBoundingClientRect()
  return { x: ((event.clientX - box.left) / box.width) * width.value, y: ((event.clientY - box.top) / box.height) * height.value }
}

/** The caption that stood at a press before, when that is pressed again: then the one beneath it is meant. */
let under: string[] = []

function press(event: PointerEvent, grip: Grip | null) {
  if (event.button !== 0 || !looks.view) return
  if (event.altKey || picking.at) {
    picking.at = pointOf(event)
    return
  }
  surface.value!.setPointerCapture(event.pointerId)
  const at = pointOf(event)
  if (sticking.captionId) return markHand.take(null, at)
  if (!grip && props.window.editing.value) {
    // Beside the window, it is left as it is.
    props.window.close()
    return
  }
  if (!grip) {
    under = shown.value.filter(({ frame }) => covers(frame, at)).map(({ id }) => id).reverse()
    if (!under.length) return selection.only(null)
    if (event.shiftKey || event.ctrlKey) return selection.toggle(under[0]!)
    // One of several that are selected is taken hold of with the others.
    const mine = under.find((id) => selection.ids.has(id))
    if (!mine) selection.only(under[0]!)
    else selection.currentId = mine
  }
  props.gestures.take(grip ?? 'move', at)
}

function released(event: PointerEvent) {
  if (picking.at) return takeColour()
  if (markHand.taken.value) return markHand.release()
  if (props.window.taken.value) return props.window.release()
  const id = props.gestures.taken.value?.id
  const wasMove = props.gestures.taken.value?.grip === 'move'
  if (props.gestures.release() || !wasMove || under.length < 2 || event.shiftKey || event.ctrlKey) return
  // Pressed without a move, where several are: the next one beneath, once the first was chosen by a press before.
  if (pressedBefore === id) selection.only(under[(under.indexOf(id!) + 1) % under.length]!)
  pressedBefore = selection.currentId
}
let pressedBefore: string | null = null

/** With the picking key held, or after its command, the picture is looked at through a glass. */
function lookAt(event: PointerEvent) {
  if (event.altKey || picking.at) picking.at = pointOf(event)
  else if (markHand.taken.value) markHand.drag(pointOf(event))
  else if (props.window.taken.value) props.window.drag(pointOf(event))
  else props.gestures.drag(pointOf(event), event.ctrlKey || event.metaKey)
}
function takeColour() {
  const colour = glass.value?.colour
  picking.at = null
  if (colour) void looks.settle({ [picking.property]: colour })
}
function takeWindow(event: PointerEvent, grip: WindowGrip) {
  if (event.button !== 0) return
  surface.value!.setPointerCapture(event.pointerId)
  props.window.take(grip, pointOf(event))
}
function takeMark(event: PointerEvent, grip: MarkGrip) {
  if (event.button !== 0) return
  surface.value!.setPointerCapture(event.pointerId)
  markHand.take(grip, pointOf(event))
}
function giveUp() {
  markHand.giveUp()
  props.gestures.giveUp()
}
/** While the window is worked on, the keys are its. */
function moveWindow(event: KeyboardEvent) {
  if (!props.window.editing.value || takesText(event.target) || picking.at) return
  const step = event.shiftKey ? 10 : 1
  const move = MOVES[event.key]
  if (move) props.window.nudge(move[0] * step, move[1] * step)
  else if (event.key === 'Delete') props.window.takeAway()
  else if (event.key === 'Escape' || event.key === 'Enter') props.window.close()
  else return
  event.preventDefault()
  event.stopPropagation()
}
useEventListener(window, 'keydown', moveWindow, { capture: true })
const MOVES: Record<string, readonly [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }

function movePoint(event: KeyboardEvent) {
  const step = event.shiftKey ? 10 : 1
  const [dx, dy] = (MOVES[event.key] ?? [0, 0]).map((move) => move * step) as [number, number]
  const at = picking.at
  if (!at) return
  if (event.key === 'Escape') picking.at = null
  else if (event.key === 'Enter') takeColour()
  else if (dx || dy) picking.at = { x: within(at.x + dx, width.value), y: within(at.y + dy, height.value) }
  else return
  event.preventDefault()
  event.stopPropagation()
}
const within = (value: number, most: number) => Math.min(Math.max(value, 0), most - 1)
useEventListener(window, 'keydown', movePoint, { capture: true })
useEventListener(window, 'keyup', (event: KeyboardEvent) => {
  if (event.key === 'Alt' && picking.at) picking.at = null
})
useEventListener(window, 'blur', () => (picking.at = null))
onBeforeUnmount(() => (picking.at = null))
useCommands([
  { id: 'pick-colour', run: () => (picking.at = { x: width.value / 2, y: height.value / 2 }), enabled: () => selection.current !== undefined && !player.playing, why: 'caption' },
])

useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  if (event.key !== 'Escape' || !(props.gestures.taken.value || markHand.taken.value)) return
  event.stopPropagation()
  giveUp()
}, { capture: true })
</script>

<template>
  <svg
    ref="surface"
    class="surface"
    :viewBox="`0 0 ${width} ${height}`"
    preserveAspectRatio="none"
    role="group"
    :aria-label="t('style.surface')"
    data-surface
    @pointerdown="press($event, null)"
    @pointermove="lookAt"
    @pointerleave="picking.at = null"
    @pointerup="released"
    @pointercancel="giveUp"
    @dblclick="emit('words')"
  >
    <g v-if="guidesShown" class="fixed">
      <rect :x="width * SAFE" :y="height * SAFE" :width="width * (1 - 2 * SAFE)" :height="height * (1 - 2 * SAFE)" />
      <path :d="`M${width / 2} 0V${height}M0 ${height / 2}H${width}`" />
      <path class="third" :d="`M${width / 3} 0V${height}M${(width * 2) / 3} 0V${height}M0 ${height / 3}H${width}M0 ${(height * 2) / 3}H${width}`" />
    </g>
    <g v-for="guide in gestures.guides.value" :key="guide.axis + guide.at" class="guide" :data-guide="guide.name">
      <path :d="guide.axis === 'x' ? `M${guide.at} 0V${height}` : `M0 ${guide.at}H${width}`" />
      <text
        :x="guide.axis === 'x' ? guide.at + px(6) : px(8)"
        :y="guide.axis === 'x' ? px(18) : guide.at - px(6)"
        :font-size="px(12)"
      >
        {{ t(`style.guide.${guide.name}`) }}
      </text>
    </g>
    <polygon
      v-for="one in shown"
      :key="one.id"
      :points="one.points"
      class="frame"
      :class="{ chosen: one.chosen, current: one.id === selection.currentId }"
      :data-frame="one.id"
    />
    <MarkOutline v-if="sticking.captionId" :px="px" @take="takeMark" />
    <WindowOutline v-else-if="current && window.editing.value" :window="window" :px="px" @take="takeWindow" />
    <template v-else-if="current">
      <polygon class="casing" :points="current.points" />
      <polygon class="line" :points="current.points" />
      <path v-if="stalk" class="stalk" :d="`M${stalk[0].x} ${stalk[0].y}L${stalk[1].x} ${stalk[1].y}`" />
      <g
        v-for="handle in handles"
        :key="handle.grip + handle.name"
        class="handle"
        :class="handle.grip"
        :transform="`translate(${handle.x} ${handle.y}) rotate(${handle.turned})`"
        :data-handle="`${handle.grip} ${handle.name}`"
        @pointerdown.stop="press($event, handle.grip)"
      >
        <title>{{ t(`style.handle.${handle.grip}`) }}</title>
        <circle class="reach" :r="px(11)" />
        <rect v-if="handle.shape === 'square'" :x="px(-5)" :y="px(-5)" :width="px(10)" :height="px(10)" />
        <rect v-else-if="handle.shape === 'bar'" :x="px(-3)" :y="px(-9)" :width="px(6)" :height="px(18)" :rx="px(3)" />
        <circle v-else-if="handle.shape === 'ring'" :r="px(6)" />
        <path v-else :d="moon(handle.shape)" />
      </g>
    </template>
    <g v-if="figure" class="figure" :transform="`translate(${figure.x} ${figure.y})`">
      <rect :width="px(64)" :height="px(20)" :rx="px(4)" />
      <text :x="px(8)" :y="px(14.5)" :font-size="px(12)">{{ figure.text }}</text>
    </g>
  </svg>
  <ColourGlass v-if="picking.at" ref="glass" :width="width" :height="height" />
</template>

<style scoped>
.surface {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  touch-action: none;
  user-select: none;
}
* {
  vector-effect: non-scaling-stroke;
}
.fixed > * {
  fill: none;
  stroke: #fffdf8;
  stroke-width: 1;
  stroke-dasharray: 4 4;
  opacity: 0.75;
}
.fixed .third {
  stroke-dasharray: 1 5;
}
.guide path {
  stroke: #e4703a;
  stroke-width: 1;
}
.guide text {
  font-family: var(--time-font);
  fill: #fffdf8;
  paint-order: stroke;
  stroke: #a6522b;
  stroke-width: 4px;
  stroke-linejoin: round;
}
.frame {
  fill: transparent;
  stroke: transparent;
  cursor: move;
}
.frame:hover,
.frame.chosen {
  stroke: #fffdf8;
  stroke-width: 1;
  stroke-dasharray: 5 4;
}
.casing,
.line,
.stalk {
  fill: none;
  pointer-events: none;
}
.casing {
  stroke: #fffdf8;
  stroke-width: 3;
}
.line {
  stroke: #a6522b;
  stroke-width: 1;
}
.stalk {
  stroke: #fffdf8;
  stroke-width: 1.5;
}
.handle > :not(.reach) {
  fill: #fffdf8;
  stroke: #a6522b;
  stroke-width: 1.5;
}
.reach {
  fill: transparent;
}
.handle.size {
  cursor: nwse-resize;
}
.handle.width {
  cursor: ew-resize;
}
.handle.turn {
  cursor: grab;
}
.handle.tilt-x {
  cursor: ns-resize;
}
.handle.tilt-y {
  cursor: ew-resize;
}
.figure rect {
  fill: #a6522b;
}
.figure text {
  font-family: var(--time-font);
  fill: #fffdf8;
}
</style>
