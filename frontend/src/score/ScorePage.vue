<script setup lang="ts">
import { useElementSize, useStorage } from '@vueuse/core'
import { computed, nextTick, onMounted, ref, shallowRef, watch, watchEffect } from 'vue'
import { useI18n } from 'vue-i18n'

import { usePlayer } from '@/player/playerStore'
import { useProject } from '@/project/projectStore'
import { openFindings } from '@/project/captions'
import { useTrack } from '@/project/trackStore'
import CaptionCard from '@/score/CaptionCard.vue'
import { drawSound, pageColours } from '@/score/drawing'
import FilmStrip from '@/score/FilmStrip.vue'
import { EvenRows, EvenTime, type Geometry, lanes, ROWS_UNDER, SCALES, stacked } from '@/score/geometry'
import { usePeaks } from '@/score/peaks'
import { useSelection } from '@/score/selectionStore'
import { useCardDrag } from '@/score/useCardDrag'
import { findingText, findingTitle, limitText } from '@/shared/findings'
import { seconds, shortClock, snap } from '@/shared/time'

const { t } = useI18n()
const project = useProject()
const track = useTrack()
const player = usePlayer()
const selection = useSelection()
const peaks = usePeaks()

const page = ref<HTMLElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)
const { width: pageWidth, height: pageHeight } = useElementSize(page)
const scale = useStorage('dunlin.scale', 50)
const top = ref(0)

const RULER = 46
/** Gaps shorter than this need no label. */
const LABELLED_GAP_MS = 700
const PLAYHEAD_AT = 0.4
const NOTE_HEIGHT = 38

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
const laneOf = computed(() => {
  const [from, to] = range.value
  return rows.value ? [] : lanes(track.captions.slice(from, to))
})
const cards = computed(() => {
  const [from, to] = range.value
  return track.captions
    .slice(from, to)
    .map((caption, i) => ({ caption, number: from + i + 1, box: geometry.value.box(from + i), lane: laneOf.value[i] ?? 0 }))
})
const gaps = computed(() => {
  if (rows.value) return []
  const [from, to] = range.value
  const found = []
  for (let i = Math.max(from, 1); i < to; i++) {
    const before = track.captions[i - 1]!
    const after = track.captions[i]!
    const ms = after.in_ms - before.out_ms
    if (ms < LABELLED_GAP_MS) continue
    found.push({ id: after.id, ms, y: geometry.value.y(before.out_ms + ms / 2) })
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
    if (!canvas.value || !pageHeight.value) return
    const [from, to] = range.value
    drawSound(canvas.value, {
      geometry: geometry.value,
      peaks,
      top: top.value,
      width: soundWidth.value,
      height: pageHeight.value,
      rulerWidth: rows.value ? 4 : RULER,
      durationMs: project.durationMs,
      colours: pageColours.value,
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
      if (player.following) scrollTo(y - pageHeight.value * PLAYHEAD_AT)
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
  const move = (moved: PointerEvent) => player.place(timeUnder(moved))
  target.addEventListener('pointermove', move)
  target.addEventListener('pointerup', () => target.removeEventListener('pointermove', move), { once: true })
}

function pressedEmpty(event: PointerEvent) {
  if (event.target === event.currentTarget && !event.shiftKey && !event.ctrlKey) {
    selection.only(null)
    player.place(timeUnder(event))
  }
}

const drag = useCardDrag(() => geometry.value, () => page.value)

defineExpose({ zoom, scale })
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
          <p v-for="gap in gaps" :key="gap.id" class="gap time" role="presentation" :style="{ top: `${gap.y}px` }">
            {{ t('score.gap', { length: seconds(gap.ms) }) }}
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
        <p class="soft">{{ t('score.none.byHand') }} <kbd>N</kbd></p>
      </div>
      <p v-if="project.project && !project.project.film.has_sound" class="silent soft">{{ t('score.noSound') }}</p>
      <p v-else-if="project.latest('peaks')?.state === 'running'" class="silent soft">{{ t('score.drawing') }}</p>
    </div>
    <div class="scales">
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
.gap::before,
.gap::after {
  content: '';
  flex: 1;
  border-top: 1px dashed var(--line);
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
</style>
