<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import { type Caption, isShape, openFindings, textOf } from '@/session/captions'
import { useFound } from '@/session/foundStore'
import { useProject } from '@/session/projectStore'
import { newId, useTrack } from '@/session/tracksStore'
import { unknownPlaces } from '@/session/unknownWords'
import type { Box, Lane } from '@/score/geometry'
import { useSelection } from '@/score/selectionStore'
import type { Grip } from '@/score/dragging'
import StyledText from '@/kit/StyledText.vue'
import { seconds, shortClock } from '@/kit/time'

const props = defineProps<{
  caption: Caption
  number: number
  box: Box
  rows: boolean
  lane: Lane
  /** Where rows close up: with its words alone, as there is no room for more. */
  bare?: boolean
  /** How much of it is above what is in sight. */
  above: number
}>()
const emit = defineEmits<{ drag: [event: PointerEvent, id: string, grip: Grip] }>()

/** A pause in typing this long begins a new step of undo. */
const NEW_STEP_MS = 2000
/** What the words of a card take at its lower end. */
const TEXT_PX = 52

const { t } = useI18n()
const project = useProject()
const track = useTrack()
const language = computed(() => project.trackInfo?.language)
const selection = useSelection()
const found = useFound()
const hits = computed(() => found.hits.get(props.caption.id))
const unknown = computed(() => unknownPlaces(props.caption, (props.caption.shown ?? props.caption.spans).map((span) => span.text).join('')))

const text = computed(() => textOf(props.caption))
const chosen = computed(() => selection.ids.has(props.caption.id))
const current = computed(() => selection.currentId === props.caption.id)
const writing = computed(() => selection.writingId === props.caption.id)
const error = computed(() => openFindings(props.caption).some((finding) => finding.weight === 'error'))
const initials = computed(() =>
  (props.caption.speaker ?? '')
    .split(/\s+/)
    .map((name) => name[0] ?? '')
    .join('')
    .slice(0, 2)
    .toUpperCase(),
)
/** How much of the card its text takes to read, as a part of its length. */
const reading = computed(() => {
  const limit = track.spec?.reading_speed ?? 17
  return props.caption.measures.reading_speed / limit
})
const readingKind = computed(() => (reading.value > 1 ? 'over' : reading.value > 0.92 ? 'near' : ''))

/** The lines being written, parted where they come to the spec's length. */
const limited = computed(() => {
  const most = track.spec?.characters_per_line
  return text.value.split('\n').map((line) => {
    const letters = [...line]
    return most && letters.length > most ? { fits: letters.slice(0, most).join(''), over: letters.slice(most).join('') } : { fits: line, over: '' }
  })
})
/** What is set by hand and no text shows. */
const marks = computed(() => {
  const { placement, case: letters } = props.caption
  const place = placement ? t(`styling.place.${placement.anchor}-${placement.align}`) : ''
  const exact = placement && placement.x !== null && placement.y !== null ? ` ${Math.round(placement.x! * 100)} % ${Math.round(placement.y! * 100)} %` : ''
  return [place + exact, letters ? t(`styling.case.${letters}`) : ''].filter(Boolean)
})

const field = ref<HTMLTextAreaElement | null>(null)
let gesture = ''
let typedAt = 0

watch(
  writing,
  async (now) => {
    if (!now) return
    await nextTick()
    const element = field.value
    if (!element) return
    gesture = newId()
    element.focus({ preventScroll: true })
    const end = element.value.length
    const { from, to } = selection.cursorAt ?? { from: end, to: end }
    element.setSelectionRange(Math.min(from, end), Math.min(to, end))
  },
  { immediate: true },
)

// An edit from elsewhere changes the field, but leaves the cursor where it is.
watch(text, (now) => {
  const element = field.value
  if (!element || element.value === now) return
  const at = element.selectionStart
  element.value = now
  element.setSelectionRange(at, at)
})

function typed(event: Event) {
  if (performance.now() - typedAt > NEW_STEP_MS) gesture = newId()
  typedAt = performance.now()
  const value = (event.target as HTMLTextAreaElement).value
  track.edit({ kind: 'change-captions', changes: [{ caption: props.caption.id, text: value }] }, gesture)
}

function pressed(event: PointerEvent) {
  if (writing.value && event.target === field.value) return
  if (event.shiftKey) selection.extendTo(props.caption.id)
  else if (event.ctrlKey || event.metaKey) selection.toggle(props.caption.id)
  else {
    if (!chosen.value) selection.only(props.caption.id)
    else selection.currentId = props.caption.id
    emit('drag', event, props.caption.id, 'whole')
  }
}

function left(event: FocusEvent) {
  // The window losing focus is no wish to stop writing.
  if (document.hasFocus() && event.relatedTarget !== field.value) {
    if (selection.writingId === props.caption.id) selection.stopWriting()
  }
}
</script>

<template>
  <article
    class="card"
    :class="{ awaited: selection.awaitedId === caption.id, chosen, current, writing, rows, error, short: box.height < 44, rtl: caption.direction === 'rtl' }"
    :style="{
      transform: `translateY(${box.top}px)`,
      '--above': above && !writing ? `${Math.max(Math.min(above, box.height - TEXT_PX), 0)}px` : undefined,
      height: writing ? 'auto' : `${Math.max(box.height, 12)}px`,
      minHeight: writing ? `${box.height}px` : undefined,
      left: `${(lane.lane / lane.of) * 100}%`,
      right: `${(1 - (lane.lane + 1) / lane.of) * 100}%`,
    }"
    :data-number="number"
    :aria-current="current ? 'true' : undefined"
    role="listitem"
    :data-caption="caption.id"
    @pointerdown="pressed"
    @dblclick="selection.write(caption.id)"
  >
    <span class="number time"><span class="visually-hidden">{{ t('score.caption') }} </span>{{ number }}</span>
    <template v-if="rows && !bare">
      <span class="row-time time">{{ shortClock(caption.in_ms) }}</span>
      <span class="row-time time">{{ shortClock(caption.out_ms) }}</span>
    </template>
    <svg v-if="caption.locked" class="lock" viewBox="0 0 10 12" role="img" :aria-label="t('score.locked')" data-locked>
      <title>{{ t('score.locked') }}</title>
      <path d="M2 5V3.5a3 3 0 0 1 6 0V5h.5a1 1 0 0 1 1 1v5a1 1 0 0 1-1 1h-7a1 1 0 0 1-1-1V6a1 1 0 0 1 1-1zm1.4 0h3.2V3.5a1.6 1.6 0 0 0-3.2 0z" />
    </svg>
    <span v-if="initials && !rows" class="speaker" :title="caption.speaker ?? ''">{{ initials }}</span>
    <div v-if="writing && !rows" class="text limit" aria-hidden="true" :dir="caption.direction">
      <template v-for="(line, index) in limited" :key="index">{{ index ? '\n' : '' }}{{ line.fits }}<mark v-if="line.over" data-over>{{ line.over }}</mark></template>
    </div>
    <textarea
      v-if="writing"
      ref="field"
      class="text"
      :lang="language"
      :dir="caption.direction"
      :value="text"
      :aria-label="t('score.text', { number })"
      spellcheck="false"
      @input="typed"
      @blur="left"
    />
    <p v-else class="text" :lang="language" :dir="caption.direction">
      <StyledText :spans="hits ? caption.spans : (caption.shown ?? caption.spans)" :hits="hits ?? unknown" />
      <span v-if="!text" class="empty">{{ t(isShape(caption) ? 'style.shape.one' : 'score.empty') }}</span>
      <span v-for="mark in marks" :key="mark" class="mark" data-mark>{{ mark }}</span>
    </p>
    <template v-if="rows && !bare">
      <span class="row-speed time" :title="t('meter.gapBefore')" data-row-gap>
        {{ caption.measures.gap_before_ms === null ? '–' : seconds(caption.measures.gap_before_ms) }}
      </span>
      <span class="row-speed time" :class="{ over: reading > 1 }" :title="t('meter.speed')">
        {{ caption.measures.reading_speed.toFixed(1) }}
      </span>
    </template>
    <template v-else-if="!rows">
      <i class="reading" :class="readingKind" :style="{ height: `${Math.min(reading, 3) * 100}%` }" />
      <template v-if="current">
        <span class="edge in time" :class="{ inside: box.top < 24 }">{{ t('score.in') }} {{ shortClock(caption.in_ms) }}</span>
        <span class="edge out time">{{ t('score.out') }} {{ shortClock(caption.out_ms) }}</span>
      </template>
      <template v-if="!caption.locked">
        <b class="grip top" data-grip="in" @pointerdown.stop="emit('drag', $event, caption.id, 'in')" />
        <b class="grip bottom" data-grip="out" @pointerdown.stop="emit('drag', $event, caption.id, 'out')" />
      </template>
    </template>
    <slot />
  </article>
</template>

<style scoped>
.card {
  position: absolute;
  top: 0;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 6px;
  padding: 4px 12px 4px 40px;
  font-size: 15.5px;
  line-height: 1.3;
  cursor: default;
  user-select: none;
  contain: layout style;
}
.card:hover {
  border-color: var(--soft);
}
.card.chosen {
  border-color: var(--russet);
  background: color-mix(in srgb, var(--russet) 5%, var(--paper));
}
.card.current {
  border: 2px solid var(--russet);
  padding: 3px 11px 3px 39px;
  background: var(--paper);
  box-shadow: 0 0 0 4px color-mix(in srgb, var(--russet) 14%, transparent);
  z-index: 3;
}
/* The next line to be cued. */
.card.awaited {
  border: 2px dashed var(--tide);
  padding: 3px 11px 3px 39px;
  background: var(--tide-wash);
}
.card.writing {
  z-index: 4;
}
.number {
  position: absolute;
  left: 8px;
  top: 6px;
  font-size: 11px;
  color: var(--soft);
}
.lock {
  position: absolute;
  left: 24px;
  top: 8px;
  width: 9px;
  height: 11px;
  fill: var(--soft);
}
.speaker {
  position: absolute;
  left: 8px;
  top: 23px;
  font-size: 11px;
  font-weight: 700;
  padding: 0 4px;
  border-radius: 4px;
  background: var(--tide-wash);
  color: var(--tide);
}
.short .speaker {
  display: none;
}
.text {
  margin: 0;
  width: 100%;
  white-space: pre-wrap;
  overflow-wrap: anywhere;
  max-height: 100%;
  overflow: hidden;
}
/* Close in, a card is taller than the page: its words stay in sight. */
.card:not(.rows) .text,
.card:not(.rows) .number,
.card:not(.rows) .speaker {
  translate: 0 var(--above, 0);
}
.card.current .text,
.card:hover .text {
  overflow: visible;
}
textarea.text {
  display: block;
  min-height: 100%;
  max-height: none;
  width: calc(100% + 4px);
  border: 0;
  padding: 0;
  background: transparent;
  color: inherit;
  font: inherit;
  resize: none;
  overflow: hidden;
  outline: 0;
  user-select: text;
  field-sizing: content;
}
.writing {
  cursor: text;
}
.empty {
  color: var(--soft);
  font-size: 13px;
}
.mark {
  display: inline-block;
  margin-left: 8px;
  padding: 0 5px;
  font: 11px/16px var(--text-font);
  font-style: normal;
  color: var(--soft);
  border: 1px solid var(--line);
  border-radius: 4px;
}
/* Lies behind the text that is written, letter under letter. */
.limit {
  position: absolute;
  inset: 4px 12px 4px 40px;
  width: auto;
  color: transparent;
  pointer-events: none;
}
.current .limit {
  inset: 3px 11px 3px 39px;
}
.limit mark {
  color: transparent;
  background: color-mix(in srgb, var(--heather) 30%, transparent);
  border-left: 2px solid var(--heather);
  margin-left: -2px;
}
.reading {
  position: absolute;
  right: -1px;
  top: -1px;
  width: 6px;
  background: var(--tide-wash);
  border-radius: 0 5px 5px 0;
  z-index: 2;
  pointer-events: none;
}
.reading.near {
  background: var(--straw-bright);
}
.reading.over {
  background: var(--heather);
}
.edge {
  position: absolute;
  z-index: 4;
  right: 16px;
  padding: 0 6px;
  font-size: 12px;
  line-height: 17px;
  color: var(--russet);
  background: var(--paper);
  border: 1px solid var(--russet);
  border-radius: 4px;
  pointer-events: none;
}
.rtl .edge {
  right: auto;
  left: 40px;
}
.edge.in {
  top: -20px;
}
.edge.in.inside {
  top: 4px;
}
.edge.out {
  bottom: -10px;
}
.grip {
  position: absolute;
  left: 0;
  right: 0;
  height: 9px;
  cursor: ns-resize;
  z-index: 3;
}
.grip.top {
  top: -5px;
}
.grip.bottom {
  bottom: -5px;
}
.current .grip::after {
  content: '';
  position: absolute;
  left: 50%;
  top: 1px;
  width: 46px;
  height: 7px;
  margin-left: -23px;
  border-radius: 4px;
  background: var(--russet);
}
.rows {
  display: flex;
  align-items: center;
  gap: 12px;
  border-radius: 0;
  border-width: 0 0 1px;
  padding: 0 10px 0 44px;
  font-size: 13.5px;
}
.rows.current {
  border-width: 0 0 1px;
  padding: 0 10px 0 44px;
  box-shadow: inset 3px 0 0 var(--russet);
  background: var(--russet-wash);
}
.rows .number {
  top: 9px;
}
.rows .text {
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  flex: 1;
}
.card.rows.current .text,
.card.rows:hover .text {
  overflow: hidden;
}
.rows textarea.text {
  min-height: 0;
  height: 20px;
}
.row-time,
.row-speed {
  font-size: 12px;
  color: var(--soft);
  flex: none;
}
.row-speed.over {
  color: var(--heather);
  font-weight: 600;
}
</style>
