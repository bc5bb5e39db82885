<script setup lang="ts">
import { useElementSize, useStorage } from '@vueuse/core'
import { computed, nextTick, onMounted, ref, shallowRef, watch, watchEffect } from 'vue'
import { useI18n } from 'vue-i18n'

import { usePlayer } from '@/picture/playerStore'
import { useProject } from '@/session/projectStore'
import { openFindings, textOf } from '@/session/captions'
import { newCaption, newId, useTrack } from '@/session/tracksStore'
import CaptionCard from '@/score/CaptionCard.vue'
import { drawSound, pageColours } from '@/score/drawing'
import FilmStrip from '@/score/FilmStrip.vue'
import { EvenRows, EvenTime, type Geometry, type Lane, lanes, ROWS_UNDER, SCALES, stacked } from '@/score/geometry'
import { usePeaks } from '@/score/peaks'
import SoundMenu from '@/score/SoundMenu.vue'
import { SOUND_PICTURES, useSoundLook } from '@/score/soundLook'
import { useSpectrum } from '@/score/spectrum'
import { useSelection } from '@/score/selectionStore'
import { spokenBetween } from '@/score/snapping'
import { useCardDrag } from '@/score/useCardDrag'
import { findingText, findingTitle, limitText } from '@/kit/findings'
import { seconds, shortClock, snap } from '@/kit/time'
import { useCue } from '@/stages/time/cueStore'
import { useTiming } from '@/stages/time/timingStore'
import KeyCap from '@/kit/commands/KeyCap.vue'

const { t } = useI18n()
const project = useProject()
const track = useTrack()
const player = usePlayer()
const selection = useSelection()
const peaks = usePeaks()
const spectrum = useSpectrum()
const look = useSoundLook()
const timing = useTiming()
const cue = useCue()

const page = ref<HTMLElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)
const { width: pageWidth, height: pageHeight } = useElementSize(page)
const scale = useStorage('dunlin.scale', 50)
/** What the page does while the film plays: goes with it, turns like a page, or stays. */
const scrolling = useStorage<(typeof SCROLLINGS)[number]>('dunlin.scrolling', 'follow')
const top = ref(0)
/** The caption that a drag over empty time would make. */
const drafted = ref<{ in_ms: number; out_ms: number } | null>(null)

const RULER = 46
/** Gaps shorter than this need no label. */
const LABELLED_GAP_MS = 700
const ALONE: Lane = { lane: 0, of: 1 }
const PLAYHEAD_AT = 0.4
/** Pixels of what was shown last that stay in sight when a page is turned. */
const TURNED_TO = 60
const SCROLLINGS = ['follow', 'page', 'still'] as const
const NOTE_HEIGHT = 38
/** Pixels a pointer moves before a press on empty time becomes a caption. */
const LEAST_DRAG = 10

const geometry = shallowRef<Geometry>(new EvenTime([], 0, scale.value))
watchEffect(() => {
  geometry.value =
    scale.value < ROWS_UNDER
      ? new EvenRows(track.captions, project.durationMs)
      : new EvenTime(track.captions, project.durationMs, scale.value)
})

const rows = computed(() => geometry.value.rows)
const soundWidth = computed(() => (rows.value ? 70 : RULER + 112))
const range = computed(() => geometry.value.visible(top.value - 120, top.value + pageHeight.value + 120))
const laneOf = computed(() => (rows.value ? [] : lanes(track.captions)))
const cards = computed(() => {
  const [from, to] = range.value
  return track.captions
    .slice(from, to)
    .map((caption, i) => ({ caption, number: from + i + 1, box: geometry.value.box(from + i), lane: laneOf.value[from + i] ?? ALONE }))
})
/** Where captions would stand, for a change that is looked at before it is made. */
const ghosts = computed(() => {
  if (rows.value || !timing.ghosts.size) return []
  const from = geometry.value.ms(top.value)
  const to = geometry.value.ms(top.value + pageHeight.value)
  const found = []
  for (const { caption, in_ms, out_ms } of timing.ghosts.values()) {
    const known = track.byId.get(caption)
    if (!known || known.locked || out_ms < from || in_ms > to || (known.in_ms === in_ms && known.out_ms === out_ms)) continue
    const y = geometry.value.y(in_ms)
    found.push({ id: caption, top: y, height: Math.max(geometry.value.y(out_ms) - y, 4), text: textOf(known).split('\n')[0] })
  }
  return found
})
const gaps = computed(() => {
  if (rows.value) return []
  const [from, to] = range.value
  const found = []
  let before = track.captions[Math.max(from, 1) - 1]
  for (let i = Math.max(from, 1); before && i < to; i++) {
    const after = track.captions[i]!
    const ms = after.in_ms - before.out_ms
    if (ms < LABELLED_GAP_MS) {
      // What is still shown when others have ended leaves no gap.
      if (after.out_ms > before.out_ms) before = after
      continue
    }
    const spoken = spokenBetween(timing.speech, before.out_ms, after.in_ms)
    const what = !timing.speech.length ? 'gap' : spoken >= LABELLED_GAP_MS ? 'spoken' : 'quiet'
    const length = seconds(what === 'spoken' ? spoken : ms)
    found.push({ id: after.id, what, text: t(`score.${what}`, { length }), y: geometry.value.y(before.out_ms + ms / 2) })
    before = after
  }
  return found
})
const notes = computed(() => {
  const wanted = cards.value.flatMap(({ caption, box }) =>
    openFindings(caption).map((finding) => ({ finding, top: box.top + (rows.value ? 8 : 4) })),
  )
  const shown = rows.value ? wanted.filter((note, i) => wanted[i - 1]?.top !== note.top) : wanted
  const tops = stacked(shown.map((note) => ({ top: note.top, height: rows.value ? 20 : NOTE_HEIGHT })))
  return shown.map(({ finding }, i) => ({ finding, top: tops[i]! }))
})
const playheadY = computed(() => geometry.value.y(player.timeMs))
const notesWide = computed(() => pageWidth.value > 660)

onMounted(() => {
  watch(() => project.project?.id, (id) => id && peaks.open(id), { immediate: true })
  watch(
    () => project.latest('peaks')?.state,
    (state) => state === 'done' && project.project && peaks.open(project.project.id),
  )
  // Coming from another stage, the Score opens where the work is.
  const focus = selection.current?.in_ms ?? player.timeMs
  if (focus) void nextTick(() => showTime(focus))
})

watchEffect(
  () => {
    void peaks.arrived.value
    void spectrum.arrived.value
    if (!canvas.value || !pageHeight.value) return
    const [from, to] = range.value
    drawSound(canvas.value, {
      geometry: geometry.value,
      projectId: project.project?.id ?? '',
      peaks,
      spectrum,
      look: look.value,
      top: top.value,
      width: soundWidth.value,
      height: pageHeight.value,
      rulerWidth: rows.value ? 4 : RULER,
      durationMs: project.durationMs,
      colours: pageColours.value,
      speech: timing.speech,
      shots: project.project?.shots ?? [],
      covered: rows.value ? [] : track.captions.slice(from, to).map((c) => [c.in_ms, c.out_ms] as const),
    })
  },
  { flush: 'post' },
)

function scrolled() {
  if (page.value) top.value = page.value.scrollTop
}

function scrollTo(y: number) {
  if (!page.value) return
  page.value.scrollTop = y
  top.value = page.value.scrollTop
}

// While it plays the page goes with the playhead; while it stands, the playhead is kept in sight.
watch(
  () => player.timeMs,
  (ms) => {
    const y = geometry.value.y(ms)
    if (player.playing) {
      if (!player.following || scrolling.value === 'still') return
      const beyond = y > top.value + pageHeight.value - 24 || y < top.value
      if (scrolling.value === 'follow') scrollTo(y - pageHeight.value * PLAYHEAD_AT)
      else if (beyond) scrollTo(y - TURNED_TO)
      return
    }
    if (y < top.value + 8 || y > top.value + pageHeight.value - 24) scrollTo(y - pageHeight.value * PLAYHEAD_AT)
  },
)

watch(
  () => selection.currentId,
  (id) => {
    const index = selection.currentIndex
    if (!id || index < 0 || player.playing) return
    const { top: cardTop, height } = geometry.value.box(index)
    const shown = Math.min(height, 80)
    if (cardTop < top.value + 4) scrollTo(cardTop - 60)
    else if (cardTop + shown > top.value + pageHeight.value - 20) scrollTo(cardTop - pageHeight.value * PLAYHEAD_AT)
  },
  { flush: 'post' },
)

function showTime(ms: number) {
  scrollTo(geometry.value.y(ms) - pageHeight.value * PLAYHEAD_AT)
}

/** Another scale, with the time at a place of the page staying where it is. */
function zoom(direction: 1 | -1, atY = pageHeight.value * PLAYHEAD_AT) {
  const ms = geometry.value.ms(top.value + atY)
  const now = SCALES.findIndex((candidate) => candidate >= scale.value)
  scale.value = SCALES[Math.min(Math.max(now + direction, 0), SCALES.length - 1)]!
  void nextTick(() => scrollTo(geometry.value.y(ms) - atY))
}

function wheeled(event: WheelEvent) {
  if (event.ctrlKey) {
    event.preventDefault()
    const rect = page.value!.getBoundingClientRect()
    zoom(event.deltaY < 0 ? 1 : -1, event.clientY - rect.top)
  } else if (player.playing) {
    player.following = false
  }
}

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
  if (rows.value) return
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

const drag = useCardDrag(() => geometry.value, () => page.value)

/** The one that comes behind it; behind the last, the first. */
const following = <T,>(all: readonly T[], now: T): T => all[(all.indexOf(now) + 1) % all.length]!

function changeScrolling() {
  scrolling.value = following(SCROLLINGS, scrolling.value)
}

function changeSound() {
  look.value.picture = following(SOUND_PICTURES, look.value.picture)
}

function amplify(times: number) {
  look.value.amplitude = Math.min(Math.max(look.value.amplitude * times, 0.5), 8)
}

defineExpose({ zoom, changeScrolling, changeSound, amplify })
</script>

<template>
  <div class="score">
    <FilmStrip :top="top" :bottom="top + pageHeight" :geometry="geometry" @show="showTime" />
    <div
      ref="page"
      class="page"
      tabindex="0"
      role="region"
      :aria-label="t('score.label')"
      @scroll.passive="scrolled"
      @wheel="wheeled"
    >
      <div class="flow" :style="{ height: `${geometry.height}px` }">
        <canvas
          ref="canvas"
          class="sound"
          role="presentation"
          :style="{ width: `${soundWidth}px`, height: `${pageHeight}px` }"
          @pointerdown="scrub"
        />
        <div
          class="cards"
          :class="{ gliding: cue.running }"
          role="list"
          :aria-label="t('score.captions')"
          :style="{ left: `${soundWidth + 14}px`, right: notesWide ? '186px' : '34px' }"
          @pointerdown="pressedEmpty"
        >
          <CaptionCard
            v-for="card in cards"
            :key="card.caption.id"
            :caption="card.caption"
            :number="card.number"
            :box="card.box"
            :rows="rows"
            :lane="card.lane"
            @drag="drag.begin"
          />
          <div
            v-if="drafted"
            class="ghost draft"
            :style="{ top: `${geometry.y(drafted.in_ms)}px`, height: `${geometry.y(drafted.out_ms) - geometry.y(drafted.in_ms)}px` }"
          />
          <div v-for="ghost in ghosts" :key="`ghost-${ghost.id}`" class="ghost" :class="{ over: !notesWide }" data-ghost :style="{ top: `${ghost.top}px`, height: `${ghost.height}px` }">
            <span>{{ ghost.text }}</span>
          </div>
          <p v-for="gap in gaps" :key="gap.id" class="gap time" :class="gap.what" role="presentation" :style="{ top: `${gap.y}px` }">
            {{ gap.text }}
          </p>
        </div>
        <aside class="margin" :class="{ narrow: !notesWide }" :aria-label="t('score.margin')">
          <p
            v-for="note in notes"
            :key="note.finding.rule + note.finding.caption"
            class="note"
            :style="{ top: `${note.top}px` }"
            :title="findingText(t, note.finding)"
            :class="note.finding.weight"
            data-finding
            @click="selection.only(note.finding.caption)"
          >
            <svg viewBox="0 0 12 12" aria-hidden="true"><path d="M6 0l6 6-6 6-6-6z" /></svg>
            <span v-if="notesWide">
              <b>{{ findingTitle(t, note.finding) }}</b>
              <small v-if="!rows">{{ limitText(t, note.finding) }}</small>
            </span>
          </p>
        </aside>
        <div class="playhead" :class="{ first: playheadY < 14 }" :style="{ transform: `translateY(${playheadY}px)` }" data-playhead>
          <span class="time">{{ shortClock(player.timeMs) }}</span>
        </div>
      </div>
      <div v-if="track.loaded && !track.captions.length" class="none">
        <h2>{{ t('score.none.title') }}</h2>
        <p>{{ project.words.length ? t('score.none.words') : t('score.none.body') }}</p>
        <v-btn color="primary" :to="{ name: 'transcribe' }">{{ t('score.none.transcribe') }}</v-btn>
        <v-btn :to="{ name: 'bring-in' }">{{ t('top.bringIn') }}</v-btn>
        <p class="soft">{{ t('score.none.byHand') }} <KeyCap command="insert" /></p>
      </div>
      <p v-if="project.project && !project.project.film.has_sound" class="silent soft">{{ t('score.noSound') }}</p>
      <p v-else-if="project.latest('peaks')?.state === 'running'" class="silent soft">{{ t('score.drawing') }}</p>
    </div>
    <div class="scales">
      <SoundMenu v-if="!rows && project.project?.film.has_sound" />
      <v-btn size="x-small" data-scrolling :title="t('command.scrolling')" @click="changeScrolling">{{ t(`score.scrolling.${scrolling}`) }}</v-btn>
      <v-btn size="x-small" icon :aria-label="t('command.zoom-in')" @click="zoom(1)">+</v-btn>
      <v-btn size="x-small" icon :aria-label="t('command.zoom-out')" @click="zoom(-1)">−</v-btn>
    </div>
  </div>
</template>

<style scoped>
.score {
  position: relative;
  display: flex;
  height: 100%;
  min-width: 0;
}
.page {
  position: relative;
  flex: 1;
  min-width: 0;
  overflow-y: scroll;
  overflow-x: hidden;
  scrollbar-width: thin;
  scrollbar-color: var(--line) transparent;
  outline-offset: -2px;
}
.flow {
  position: relative;
  min-height: 100%;
}
.sound {
  position: sticky;
  top: 0;
  display: block;
  border-right: 1px solid var(--line);
  cursor: row-resize;
  touch-action: none;
}
.cards {
  position: absolute;
  top: 0;
  bottom: 0;
}
/* What was just cued is seen to go where it belongs. */
.gliding :deep(.card) {
  transition: transform 180ms ease-out, height 180ms ease-out;
}
.gap {
  position: absolute;
  left: 0;
  right: 0;
  margin: -8px 0 0;
  font-size: 11px;
  color: var(--soft);
  display: flex;
  align-items: center;
  gap: 8px;
  pointer-events: none;
}
.gap.spoken {
  color: var(--straw);
}
.gap::before,
.gap::after {
  content: '';
  flex: 1;
  border-top: 1px dashed var(--line);
}
.ghost {
  position: absolute;
  left: calc(100% + 10px);
  width: 164px;
  z-index: 4;
  overflow: hidden;
  padding: 1px 8px;
  font-size: 12px;
  line-height: 1.3;
  color: var(--tide);
  background: var(--tide-wash);
  border: 1.5px dashed var(--tide);
  border-left-width: 4px;
  border-left-style: solid;
  border-radius: 6px;
  pointer-events: none;
}
.ghost.over {
  left: auto;
  right: 0;
  width: 40%;
}
.ghost.draft {
  left: 0;
  right: 0;
  width: auto;
  opacity: 0.7;
}
.margin {
  position: absolute;
  top: 0;
  right: 6px;
  width: 168px;
}
.margin.narrow {
  width: 20px;
}
.note {
  position: absolute;
  left: 0;
  right: 0;
  margin: 0;
  padding-left: 18px;
  font-size: 12.5px;
  line-height: 1.28;
  color: var(--heather);
  cursor: default;
}
.note svg {
  position: absolute;
  left: 0;
  top: 2px;
  width: 12px;
  height: 12px;
  fill: currentColor;
}
.note b {
  font-weight: 650;
}
.note small {
  display: block;
  font-size: 11.5px;
  color: var(--soft);
}
.playhead {
  position: absolute;
  top: -1px;
  left: 0;
  right: 0;
  height: 0;
  border-top: 2px solid var(--russet);
  z-index: 5;
  pointer-events: none;
}
.playhead span {
  position: absolute;
  left: 0;
  top: -11px;
  padding: 2px 6px;
  font-size: 12px;
  color: var(--on-russet);
  background: var(--russet);
  border-radius: 0 4px 4px 0;
}
.playhead.first span {
  top: 0;
  border-radius: 0 0 4px 0;
}
.none {
  position: absolute;
  top: 90px;
  left: 200px;
  right: 40px;
  max-width: 420px;
}
.none h2 {
  font-size: 18px;
  margin: 0 0 6px;
}
.none p {
  margin: 0 0 14px;
}
.silent {
  position: absolute;
  top: 14px;
  left: 10px;
  width: 140px;
  font-size: 12.5px;
}
.scales {
  position: absolute;
  right: 14px;
  bottom: 10px;
  display: flex;
  gap: 4px;
  z-index: 6;
}
.scales :deep(.v-btn:not(.v-btn--icon)) {
  height: 20px;
  padding: 0 8px;
  font-size: 11.5px;
  background: var(--paper);
}
</style>
