<script setup lang="ts">
/** The caption against its source: what became of the source, how much room the words have, and what would make more. */
import { diffWordsWithSpace } from 'diff'
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

import ChoiceRow from '@/kit/ChoiceRow.vue'
import KeyCap from '@/kit/commands/KeyCap.vue'
import { findingText } from '@/kit/findings'
import MeterBar from '@/kit/MeterBar.vue'
import { seconds } from '@/kit/time'
import { useSelection } from '@/score/selectionStore'
import { openFindings } from '@/session/captions'
import { useProject } from '@/session/projectStore'
import { useTrack } from '@/session/tracksStore'
import { useTranslation } from '@/session/translationStore'
import SpellingHere from '@/spelling/SpellingHere.vue'
import { charactersLeft, charactersOf } from '@/stages/translate/room'
import SuggestionList from '@/stages/translate/SuggestionList.vue'
import TermsHere from '@/stages/translate/TermsHere.vue'
import { useRoom } from '@/stages/translate/useRoom'
import { useSuggestions } from '@/stages/translate/useSuggestions'
import { SHOWN, type useTranslateCommands } from '@/stages/translate/useTranslateCommands'

const { work } = defineProps<{ work: ReturnType<typeof useTranslateCommands> }>()

const { t } = useI18n()
const project = useProject()
const track = useTrack()
const selection = useSelection()
const translation = useTranslation()

const caption = computed(() => (work.onTarget.value ? selection.current : undefined))
const standing = computed(() => caption.value && translation.standing(caption.value))
const link = computed(() => translation.linkOf(caption.value?.id ?? ''))
const said = computed(() => translation.sourceSays(caption.value?.id ?? ''))
/** What became of the source since it was translated. */
const changes = computed(() => (standing.value === 'changed' ? diffWordsWithSpace(link.value.said ?? '', said.value) : []))

const left = computed(() => caption.value && charactersLeft(caption.value, track.spec?.reading_speed))
const there = computed(() => (caption.value ? charactersOf(caption.value) : 0))
const gauges = computed(() => {
  const now = caption.value
  if (!now) return []
  const most = left.value === null || left.value === undefined ? null : there.value + left.value
  const longest = track.spec?.characters_per_line
  const gauge = (name: string, value: number, limit: number | null | undefined) => ({
    name, over: Boolean(limit && value > limit), filled: Math.min((value / (limit || Math.max(value, 1))) * 0.8, 1), ticks: limit ? [0.8] : [],
    value: limit ? t('meter.of', { value, limit }) : String(value),
  })
  return [gauge(t('translate.room'), there.value, most), gauge(t('meter.longestLine'), now.measures.longest_line, longest)]
})
const shown = work.shown
/** Pairs are doubtful only where a file was brought in. */
const kinds = computed(() => SHOWN.filter((kind) => kind !== 'doubtful' || shown.value === kind || work.counts.value[kind]))
const shownRow = computed(() => kinds.value.map((value) => ({ value, title: `${t(`translate.shown.${value}`)} ${work.counts.value[value]}` })))
const told = computed(() => (caption.value ? openFindings(caption.value) : []))
const room = useRoom(() => work.onTarget.value)
const suggestions = useSuggestions(() => work.onTarget.value)
const sourceLanguage = computed(() => project.project?.tracks.find(({ id }) => id === translation.pair?.source)?.language)
/** What is to be translated, its terms apart. */
const parted = computed(() => {
  const text = said.value
  const parts: { text: string; term?: string }[] = []
  let at = 0
  for (const { term, targets, start, end } of suggestions.terms.value) {
    if (start < at || end > text.length) continue
    parts.push({ text: text.slice(at, start) }, { text: text.slice(start, end), term: targets.join(' | ') || term })
    at = end
  }
  return [...parts, { text: text.slice(at) }]
})
const silence = computed(() => {
  const ms = room.room.value?.silence_ms
  return ms === null || ms === undefined ? '' : t('translate.silence', { length: seconds(ms) })
})
</script>

<template>
  <section class="pair" :aria-label="t('translate.panel')">
    <ChoiceRow v-model="shown" :label="t('translate.shownLabel')" :options="shownRow" />
    <p class="soft keys"><KeyCap command="pair-open" /> {{ t('translate.toNext') }} · <KeyCap command="pair-filter" /> {{ t('translate.otherKind') }}</p>
    <template v-if="caption">
      <div class="what">
        <h3>{{ t('translate.against') }} <span class="soft" :class="standing" data-standing-now>{{ t(`translate.standing.${standing}`) }}</span></h3>
        <p v-if="changes.length" class="changes" data-changes>
          <span v-for="(part, index) in changes" :key="index" :class="{ added: part.added, removed: part.removed }">{{ part.value }}</span>
        </p>
        <p v-else-if="said" class="said" :lang="sourceLanguage">
          <template v-for="(part, index) in parted" :key="index"><u v-if="part.term" :title="part.term" data-underlined>{{ part.text }}</u><template v-else>{{ part.text }}</template></template>
        </p>
        <p v-else class="soft">{{ t('translate.noSource') }}</p>
      </div>
      <MeterBar v-for="gauge in gauges" :key="gauge.name" v-bind="gauge" />
      <ul v-if="told.length" class="told">
        <li v-for="(finding, index) in told" :key="index" :class="finding.weight">{{ findingText(t, finding) }}</li>
      </ul>
      <div v-if="(left ?? 0) < 0 || room.offers.value.length" class="offers" data-offers>
        <p v-if="(left ?? 0) < 0">{{ t('translate.tooMany', -(left ?? 0)) }}<span v-if="silence"> {{ silence }}</span></p>
        <button v-for="offer in room.offers.value" :key="offer.way" type="button" class="offer" :data-offer="offer.way" @click="room.take(offer)">
          <KeyCap :command="room.commandOf(offer.way)" />
          {{ t(`translate.way.${offer.way}`, { by: seconds(offer.by_ms) }) }}
          <small v-if="(left ?? 0) < 0 && offer.way !== 'lines'" class="soft">{{ offer.left < 0 ? t('translate.thenOver', -offer.left) : t('translate.thenLeft', offer.left) }}</small>
        </button>
        <p v-if="room.room.value && !room.offers.value.length" class="soft">{{ t('translate.noOffer') }}</p>
      </div>
      <SpellingHere />
      <SuggestionList :suggestions="suggestions" />
      <TermsHere :suggestions="suggestions" />
    </template>
    <p v-else class="soft">{{ t(work.onTarget.value ? 'translate.choose' : 'translate.onSource') }} <KeyCap :command="work.onTarget.value ? 'pair-open' : 'pair-across'" /></p>
  </section>
</template>

<style scoped>
.pair {
  display: grid;
  gap: 12px;
}
.keys {
  margin-top: -6px;
}
h3 {
  margin: 0 0 4px;
  font-size: 12.5px;
  font-weight: 650;
}
h3 span {
  font-weight: 400;
}
h3 .changed {
  color: var(--heather);
}
h3 .done {
  color: var(--reed);
}
p {
  margin: 0;
}
.what {
  padding-top: 10px;
  border-top: 1px solid var(--line);
}
.said u {
  text-decoration: underline 2px var(--tide);
  text-underline-offset: 3px;
}
.added {
  background: color-mix(in srgb, var(--reed) 22%, transparent);
}
.removed {
  color: var(--heather);
  text-decoration: line-through;
}
.told {
  margin: 0;
  padding: 8px 12px;
  list-style: none;
  color: var(--heather);
  border: 1px solid currentColor;
  border-radius: 6px;
}
.told .advice {
  color: var(--straw);
}
.offers {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px;
  padding: 10px 12px;
  background: var(--sand);
  border: 1px solid var(--line);
  border-radius: 6px;
}
.offers p {
  width: 100%;
}
.offer {
  padding: 3px 0;
  margin-right: 10px;
  color: var(--russet);
  font-weight: 600;
  text-align: left;
}
.offer small {
  font-weight: 400;
}
</style>
