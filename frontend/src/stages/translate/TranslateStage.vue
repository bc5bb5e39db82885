<script setup lang="ts">
/** Two languages side by side on the axis of time: what is said, and what it becomes. */
import { computed, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import BesideFilm from '@/kit/BesideFilm.vue'
import { keysWaitFor, useCommands } from '@/kit/commands/commands'
import KeyCap from '@/kit/commands/KeyCap.vue'
import { languageName } from '@/kit/i18n'
import { seconds } from '@/kit/time'
import ScorePage from '@/score/ScorePage.vue'
import { useProject } from '@/session/projectStore'
import { useTrack, useTracks } from '@/session/tracksStore'
import { useTranslation } from '@/session/translationStore'
import AcrossColumn from '@/stages/translate/AcrossColumn.vue'
import BesidePair, { type BesideView } from '@/stages/translate/BesidePair.vue'
import BeginTranslation from '@/stages/translate/BeginTranslation.vue'
import CardStanding from '@/stages/translate/CardStanding.vue'
import { heardBetween, useHeard } from '@/stages/translate/heard'
import { usePivot } from '@/stages/translate/usePivot'
import { useTranslateCommands } from '@/stages/translate/useTranslateCommands'
import type { Geometry } from '@/score/geometry'
import type { Stretch } from '@/stages/translate/speechGaps'

const { t } = useI18n()
const project = useProject()
const track = useTrack()
const tracks = useTracks()
const translation = useTranslation()
const score = ref<InstanceType<typeof ScorePage> | null>(null)
const work = useTranslateCommands()
const pivot = usePivot()
const { shown, isOf, onTarget, unsaid, fill, goAcross } = work
/** Another language is begun beside those there are. */
const beginning = ref(false)
/** What stands beside the film. */
const beside = ref<BesideView>('caption')

/** One comes here to write the translation; its source is a key away. */
let entered = false
watch(
  () => track.loaded && translation.pair,
  async (pair) => {
    if (!pair || entered) return
    entered = true
    try {
      if (pair.target !== track.id) await keysWaitFor(tracks.select(pair.target))
      await translation.open()
    } catch (problem) {
      track.refusal = (problem as Error).message
    }
  },
  { immediate: true },
)

const other = computed(() => (onTarget.value ? translation.source : translation.target))
const otherInfo = computed(() => project.project?.tracks.find(({ id }) => id === (onTarget.value ? translation.pair?.source : translation.pair?.target)))
const speed = computed(() => translation.target?.spec.value?.reading_speed)
const across = computed<ReadonlyMap<string, readonly string[]>>(() =>
  onTarget.value ? translation.targetsOf : new Map([...translation.links].map(([id, { sources }]) => [id, sources])),
)
/** Where nobody has captioned what is said: what was recognised stands there. */
const heard = useHeard()
const otherCaptions = computed(() => other.value?.captions.value ?? (onTarget.value && !translation.pair?.source ? heard.value : []))
const names = computed(() => {
  const name = (info: (typeof otherInfo)['value']) => (info ? [languageName(info.language), info.name].filter(Boolean).join(', ') : '')
  return { here: name(project.trackInfo), across: otherInfo.value ? name(otherInfo.value) : t('translate.heard') }
})
const heads = computed(() => (onTarget.value ? { left: names.value.across, right: names.value.here } : { left: names.value.here, right: names.value.across }))

const placed = (geometry: Geometry, { start_ms, end_ms }: Stretch) => ({ top: `${geometry.y(start_ms)}px`, height: `${geometry.y(end_ms) - geometry.y(start_ms)}px` })
const inSight = (stretches: readonly Stretch[], geometry: Geometry, top: number, height: number) => {
  const [from, to] = [geometry.ms(top), geometry.ms(top + height)]
  return stretches.filter(({ start_ms, end_ms }) => end_ms > from && start_ms < to)
}
const saidIn = (stretch: Stretch) => heardBetween(project.words, stretch.start_ms, stretch.end_ms)

useCommands([
  { id: 'zoom-in', run: () => score.value?.zoom(1) },
  { id: 'zoom-out', run: () => score.value?.zoom(-1) },
  { id: 'scrolling', run: () => score.value?.changeScrolling() },
])
</script>

<template>
  <BeginTranslation v-if="project.project && (beginning || !translation.pair)" :is-first="!translation.pair" @close="beginning = false" />
  <ScorePage v-else ref="score" :live="onTarget ? 'right' : 'left'">
    <template #head="{ columns }">
      <div class="heads">
        <h2 :style="{ left: `${columns.left}px`, width: `${columns.width}px` }" :class="{ on: !onTarget }">{{ heads.left }}</h2>
        <h2 :style="{ left: `${columns.right}px`, width: `${columns.width}px` }" :class="{ on: onTarget }">
          {{ heads.right }} <small v-if="speed">{{ t('translate.leftAt', { speed }) }}</small>
        </h2>
      </div>
    </template>
    <template #card="{ caption, rows }">
      <CardStanding v-if="onTarget" :caption="caption" :standing="translation.standing(caption)" :speed="speed" :rows="rows" />
      <i v-if="onTarget && shown !== 'open' && !isOf(shown, caption)" class="veil" />
    </template>
    <template #across="{ geometry, rows, top, height, columns }">
      <AcrossColumn
        :captions="otherCaptions" :language="otherInfo?.language ?? 'und'" :across="across" :geometry="geometry" :rows="rows" :top="top" :height="height"
        :left="onTarget ? columns.left : columns.right" :width="columns.width" :are-source="onTarget" :said-with="pivot.pivot.value ? pivot.saidWith : undefined" :third="pivot.info.value?.language" @over="otherInfo && goAcross($event)"
      />
      <template v-if="!rows">
        <button
          v-for="stretch in inSight(onTarget ? unsaid.target : unsaid.source, geometry, top, height)" :key="`fill-${stretch.start_ms}`"
          type="button" class="unsaid" data-fill :style="{ ...placed(geometry, stretch), left: `${onTarget ? columns.right : columns.left}px`, width: `${columns.width}px` }"
          @click="fill(stretch)"
        >
          {{ t('translate.unsaid', { length: seconds(stretch.end_ms - stretch.start_ms) }) }} <KeyCap command="speech-fill" />
          <span class="soft">{{ saidIn(stretch) }}</span>
        </button>
        <div
          v-for="stretch in inSight(onTarget ? unsaid.source : unsaid.target, geometry, top, height)" :key="`none-${stretch.start_ms}`"
          class="unsaid across" :style="{ ...placed(geometry, stretch), left: `${onTarget ? columns.left : columns.right}px`, width: `${columns.width}px` }"
        >
          <span class="soft">{{ saidIn(stretch) || t('translate.unsaid', { length: seconds(stretch.end_ms - stretch.start_ms) }) }}</span>
        </div>
      </template>
    </template>
  </ScorePage>
  <BesideFilm>
    <BesidePair v-if="translation.pair && !beginning" v-model="beside" :work="work" :pivot="pivot" @begin="beginning = true" />
  </BesideFilm>
</template>

<style scoped>
.heads {
  position: sticky;
  top: 0;
  z-index: 8;
  height: 0;
}
.heads h2 {
  position: absolute;
  top: 0;
  display: flex;
  justify-content: space-between;
  gap: 10px;
  margin: 0;
  padding: 5px 2px;
  font-size: 12px;
  font-weight: 600;
  color: var(--soft);
  background: linear-gradient(var(--sand) 75%, transparent);
  white-space: nowrap;
  overflow: hidden;
}
.heads h2.on {
  color: var(--ink);
}
.heads small {
  font-size: 12px;
  font-weight: 600;
  color: var(--soft);
  overflow: hidden;
  text-overflow: ellipsis;
}
.veil {
  position: absolute;
  inset: 0;
  background: color-mix(in srgb, var(--sand) 72%, transparent);
  pointer-events: none;
}
.unsaid {
  position: absolute;
  z-index: 2;
  overflow: hidden;
  padding: 4px 10px;
  text-align: left;
  font-size: 12.5px;
  line-height: 1.35;
  color: var(--straw);
  border: 1.5px dashed var(--straw);
  border-radius: 6px;
}
.unsaid .soft {
  display: block;
  font-style: italic;
}
.unsaid.across {
  pointer-events: none;
}
</style>
