<script setup lang="ts">
import { computed, nextTick, onMounted, ref, useSlots } from 'vue'
import { useI18n } from 'vue-i18n'

import { usePlayer } from '@/picture/playerStore'
import { useProject } from '@/session/projectStore'
import { useTrack } from '@/session/tracksStore'
import CaptionCard from '@/score/CaptionCard.vue'
import FilmStrip from '@/score/FilmStrip.vue'
import SoundMenu from '@/score/SoundMenu.vue'
import { following } from '@/kit/ordered'
import { SOUND_PICTURES, useSoundLook } from '@/score/soundLook'
import { useSelection } from '@/score/selectionStore'
import { usePageScroll } from '@/score/usePageScroll'
import { useDrawnSound } from '@/score/useDrawnSound'
import { useShownCaptions } from '@/score/useShownCaptions'
import { usePressOnTime } from '@/score/usePressOnTime'
import { useCardDrag } from '@/score/useCardDrag'
import { findingText, findingTitle, limitText } from '@/kit/findings'
import { shortClock } from '@/kit/time'
import { useCue } from '@/stages/time/cueStore'
import KeyCap from '@/kit/commands/KeyCap.vue'

/** The captions that are worked on are cards; with a slot `across`, other captions stand beside them on the same axis. */
const { live = 'right' } = defineProps<{
  /** On which side they stand then. */
  live?: 'left' | 'right'
}>()

const { t } = useI18n()
const project = useProject()
const track = useTrack()
const player = usePlayer()
const selection = useSelection()
const look = useSoundLook()
const cue = useCue()

const COLUMN_GAP = 18
const RIGHT_EDGE = 16
const slots = useSlots()
const page = ref<HTMLElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)
const sight = usePageScroll(page)
const { geometry, rows, top, pageWidth, pageHeight, scrolling, scrolled, wheeled, showTime, zoom, changeScrolling } = sight
const { soundWidth } = useDrawnSound(canvas, sight)
const { cards, ghosts, gaps, notes } = useShownCaptions(sight)
const { drafted, scrub, pressedEmpty } = usePressOnTime(page, geometry)
const playheadY = computed(() => geometry.value.y(player.timeMs))
const isShared = computed(() => Boolean(slots.across))
const notesWide = computed(() => !isShared.value && pageWidth.value > 660)
/** Two columns of equal width, where others stand beside the cards. */
const columns = computed(() => {
  const left = soundWidth.value + 14
  const width = Math.max((pageWidth.value - left - COLUMN_GAP - RIGHT_EDGE) / 2, 0)
  return { left, right: left + width + COLUMN_GAP, width }
})
const ofCards = computed(() =>
  isShared.value
    ? { left: `${columns.value[live]}px`, width: `${columns.value.width}px` }
    : { left: `${soundWidth.value + 14}px`, right: notesWide.value ? '186px' : '34px' },
)

onMounted(() => {
  // Coming from another stage, the Score opens where the work is.
  const focus = selection.current?.in_ms ?? player.timeMs
  if (focus) void nextTick(() => showTime(focus))
})

const drag = useCardDrag(() => geometry.value, () => page.value)

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
      <slot name="head" :columns="columns" />
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
          :style="ofCards"
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
            :bare="isShared"
            :above="Math.max(top - card.box.top, 0)"
            @drag="drag.begin"
          >
            <slot name="card" :caption="card.caption" :rows="rows" />
          </CaptionCard>
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
        <slot name="across" :geometry="geometry" :rows="rows" :top="top" :height="pageHeight" :columns="columns" />
        <aside v-if="!isShared" class="margin" :class="{ narrow: !notesWide }" :aria-label="t('score.margin')">
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
      <div v-if="track.loaded && !track.captions.length && !isShared" class="none">
        <h2>{{ t('score.none.title') }}</h2>
        <p>{{ t(project.words.length ? 'score.none.words' : project.project?.film.has_sound ? 'score.none.body' : 'score.none.mute') }}</p>
        <v-btn v-if="project.words.length || project.project?.film.has_sound" color="primary" :to="{ name: 'transcribe' }">{{ t('score.none.transcribe') }}</v-btn>
        <v-btn :to="{ name: 'bring-in' }">{{ t('top.bringIn') }}</v-btn>
        <p class="soft">{{ t('score.none.byHand') }} <KeyCap command="insert" /></p>
      </div>
      <p v-if="project.hasFilm && !project.project?.film.has_sound" class="silent soft">{{ t('score.noSound') }}</p>
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
