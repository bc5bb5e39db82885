<script setup lang="ts">
/** The captions of the other side, on the same axis: read beside those that are worked on, and gone over to by a press. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

import StyledText from '@/kit/StyledText.vue'
import { shortClock } from '@/kit/time'
import { ROW_HEIGHT, type Geometry } from '@/score/geometry'
import { useSelection } from '@/score/selectionStore'
import { type Caption, firstFrom, textOf } from '@/session/captions'
import { useTrack } from '@/session/tracksStore'

const props = defineProps<{
  captions: readonly Caption[]
  language: string
  /** Captions that are worked on, by those here that they go with. */
  across: ReadonlyMap<string, readonly string[]>
  geometry: Geometry
  rows: boolean
  top: number
  height: number
  left: number
  width: number
  /** Whether these are the ones to be translated: what none is made of stands out. */
  areSource: boolean
  /** What is said at the same time in a third language, by what is said here. */
  saidWith?: (caption: Caption) => readonly Caption[]
  third?: string
}>()
const emit = defineEmits<{ over: [caption: string] }>()

const { t } = useI18n()
const track = useTrack()
const selection = useSelection()

const ROOM = 120
const numbers = computed(() => new Map(props.captions.map(({ id }, index) => [id, index + 1])))
const longest = computed(() => props.captions.reduce((most, { in_ms, out_ms }) => Math.max(most, out_ms - in_ms), 0))
const places = computed(() => new Map(track.captions.map(({ id }, index) => [id, index])))

const shown = computed(() => {
  const { geometry, top, height } = props
  const from = geometry.ms(Math.max(top - ROOM, 0))
  const to = geometry.ms(top + height + ROOM)
  const found = props.captions.slice(firstFrom(props.captions, from - longest.value), firstFrom(props.captions, to + 1))
  return found.flatMap((caption) => {
    const mine = props.across.get(caption.id) ?? []
    const box = props.rows ? rowOf(mine) : { top: geometry.y(caption.in_ms), height: geometry.y(caption.out_ms) - geometry.y(caption.in_ms) }
    return box ? [{ caption, box, here: mine.includes(selection.currentId ?? ''), alone: mine.length === 0 }] : []
  })
})
/** Where rows close up, what goes with a row stands in it. */
function rowOf(mine: readonly string[]) {
  const index = places.value.get(mine[0] ?? '')
  return index === undefined ? null : { top: props.geometry.box(index).top, height: ROW_HEIGHT }
}
</script>

<template>
  <div class="across" role="list" :aria-label="t(areSource ? 'translate.source' : 'translate.target')" :style="{ left: `${left}px`, width: `${width}px` }">
    <article
      v-for="{ caption, box, here, alone } in shown"
      :key="caption.id"
      class="said"
      :class="{ here, alone: alone && areSource, rows, rtl: caption.direction === 'rtl' }"
      :style="{ transform: `translateY(${box.top}px)`, height: `${Math.max(box.height, 12)}px` }"
      role="listitem"
      :data-across="caption.id"
      :title="`${shortClock(caption.in_ms)} – ${shortClock(caption.out_ms)}`"
      @pointerdown="emit('over', caption.id)"
    >
      <span class="number time">{{ numbers.get(caption.id) }}</span>
      <p :lang="language" :dir="caption.direction">
        <StyledText :spans="caption.shown ?? caption.spans" />
        <span v-if="!textOf(caption)" class="soft">{{ t('score.empty') }}</span>
        <span v-if="saidWith" class="third" :lang="third" data-third><span v-for="one in saidWith(caption)" :key="one.id" :dir="one.direction">{{ textOf(one) }} </span></span>
        <small v-if="alone && areSource" class="none">{{ t('translate.untranslated') }}</small>
      </p>
    </article>
    <slot />
  </div>
</template>

<style scoped>
.across {
  position: absolute;
  top: 0;
  bottom: 0;
}
.said {
  position: absolute;
  left: 0;
  right: 0;
  top: 0;
  padding: 4px 10px 4px 34px;
  overflow: hidden;
  font-size: 14px;
  line-height: 1.35;
  color: var(--soft);
  background: var(--sand);
  border: 1px solid var(--line);
  border-radius: 6px;
  cursor: default;
  contain: layout style;
}
.said:hover {
  border-color: var(--soft);
}
.said.here {
  color: var(--ink);
  border-color: var(--soft);
}
.said.alone {
  border-style: dashed;
  border-color: var(--straw);
}
.number {
  position: absolute;
  left: 8px;
  top: 6px;
  font-size: 11px;
  color: var(--soft);
}
p {
  margin: 0;
  white-space: pre-wrap;
  overflow-wrap: anywhere;
}
.none {
  display: block;
  color: var(--straw);
}
.rows {
  border-radius: 0;
  border-width: 0 0 1px;
  padding: 6px 8px 6px 34px;
  font-size: 13px;
}
.rows p {
  overflow: hidden;
  white-space: nowrap;
  text-overflow: ellipsis;
}
.rows .number {
  top: 9px;
}
.third {
  display: block;
  margin-top: 4px;
  font-size: 13px;
  font-style: italic;
  color: var(--tide);
}
</style>
