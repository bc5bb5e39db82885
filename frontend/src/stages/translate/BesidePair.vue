<script setup lang="ts">
/** Beside the film: how far the translation is, and one of what belongs to it: the caption, drafts, memory, terms, files. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

import ChoiceRow from '@/kit/ChoiceRow.vue'
import KeyCap from '@/kit/commands/KeyCap.vue'
import { useCommands } from '@/kit/commands/commands'
import { languageName } from '@/kit/i18n'
import { shortClock } from '@/kit/time'
import { useProject } from '@/session/projectStore'
import { useTracks } from '@/session/tracksStore'
import { useTranslation } from '@/session/translationStore'
import DraftPanel from '@/stages/translate/DraftPanel.vue'
import FilesPanel from '@/stages/translate/FilesPanel.vue'
import MemoryPanel from '@/stages/translate/MemoryPanel.vue'
import PairPanel from '@/stages/translate/PairPanel.vue'
import TermPanel from '@/stages/translate/TermPanel.vue'
import { useDrafts } from '@/stages/translate/useDrafts'
import type { usePivot } from '@/stages/translate/usePivot'
import type { useTranslateCommands } from '@/stages/translate/useTranslateCommands'

const VIEWS = ['caption', 'drafts', 'memory', 'terms', 'files'] as const
export type BesideView = (typeof VIEWS)[number]

const { work, pivot } = defineProps<{ work: ReturnType<typeof useTranslateCommands>; pivot: ReturnType<typeof usePivot> }>()
const { pivot: third, options: thirds } = pivot
defineEmits<{ begin: [] }>()
const view = defineModel<BesideView>({ required: true })

const { t } = useI18n()
const project = useProject()
const tracks = useTracks()
const translation = useTranslation()
const drafts = useDrafts(() => work.onTarget.value)

const targets = computed(() => project.project?.tracks.filter(({ translates }) => translates && translates === translation.pair?.source) ?? [])
const views = computed(() => VIEWS.map((value) => ({ value, title: t(`translate.view.${value}`) })))
const minutes = (ms: number) => shortClock(ms).replace(/\.\d+$/, '')

function goThroughDrafts() {
  work.show('draft')
  view.value = 'caption'
}
const hasSource = () => Boolean(translation.pair?.source)
const show = (wanted: BesideView) => (view.value = view.value === wanted ? 'caption' : wanted)
useCommands([
  { id: 'pair-drafts', run: () => show('drafts'), enabled: hasSource, why: 'now' },
  { id: 'pair-memory', run: () => show('memory'), enabled: hasSource, why: 'now' },
  { id: 'pair-terms', run: () => show('terms'), enabled: hasSource, why: 'now' },
  { id: 'pair-files', run: () => show('files'), enabled: hasSource, why: 'now' },
  { id: 'panel-close', run: () => (view.value = 'caption'), enabled: () => view.value !== 'caption' },
])
</script>

<template>
  <div class="beside">
    <div class="far">
      <b data-done>{{ t('translate.done', { n: translation.done.count, of: translation.done.of }) }}</b>
      <span class="soft time">{{ t('translate.minutes', { done: minutes(translation.done.ms), of: minutes(translation.done.ofMs) }) }}</span>
      <span class="languages">
        <select v-if="targets.length > 1" class="field" :aria-label="t('translate.which')" data-target :value="translation.pair!.target" @change="tracks.select(($event.target as HTMLSelectElement).value)">
          <option v-for="info in targets" :key="info.id" :value="info.id">{{ info.name || languageName(info.language) }}</option>
        </select>
        <v-btn size="x-small" data-another @click="$emit('begin')">{{ t('translate.another') }}</v-btn>
      </span>
      <i class="bar"><u :style="{ width: `${translation.done.of ? (translation.done.count / translation.done.of) * 100 : 0}%` }" /></i>
    </div>
    <label v-if="thirds.length > 1" class="third"><span class="soft">{{ t('translate.pivot') }}</span> <select v-model="third" class="field" data-pivot><option v-for="one in thirds" :key="one.value" :value="one.value">{{ one.title }}</option></select> <KeyCap command="pair-pivot" /></label>
    <ChoiceRow v-if="translation.pair?.source" v-model="view" class="views" :label="t('translate.views')" :options="views" />
    <PairPanel v-if="view === 'caption'" :work="work" />
    <DraftPanel v-else-if="view === 'drafts'" :drafts="drafts" @open="goThroughDrafts" />
    <MemoryPanel v-else-if="view === 'memory'" />
    <TermPanel v-else-if="view === 'terms'" />
    <FilesPanel v-else />
  </div>
</template>

<style scoped>
.beside {
  display: grid;
  gap: 12px;
  padding: 12px 16px;
  font-size: 13px;
}
.third {
  display: flex;
  align-items: center;
  gap: 8px;
}
.views {
  padding-bottom: 8px;
  border-bottom: 1px solid var(--line);
}
.far {
  display: grid;
  grid-template-columns: auto 1fr auto;
  align-items: baseline;
  gap: 4px 10px;
}
.languages {
  display: flex;
  gap: 6px;
}
.bar {
  grid-column: 1 / -1;
  height: 4px;
  background: var(--sand-deep);
  border-radius: 2px;
  overflow: hidden;
}
.bar u {
  display: block;
  height: 100%;
  background: var(--reed);
}
</style>
