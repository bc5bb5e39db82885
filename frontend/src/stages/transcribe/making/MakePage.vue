<script setup lang="ts">
/** The captions that the transcript would give, seen before they take the place of those there are. */
import { computed, onMounted, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import type { Schemas } from '@/api/client'
import { LETTERS, useMaking, WAYS } from '@/stages/transcribe/making/makingStore'
import { usePlayer } from '@/picture/playerStore'
import { useProject } from '@/session/projectStore'
import { useTrack } from '@/session/tracksStore'
import { goTo } from '@/router'
import { keysWaitFor, useCommands } from '@/kit/commands/commands'
import { shortClock } from '@/kit/time'
import ChoiceRow from '@/kit/ChoiceRow.vue'
import { sentence } from '@/kit/i18n'
import { useTranscript } from '@/stages/transcribe/transcript/transcriptStore'
import KeyCap from '@/kit/commands/KeyCap.vue'
import BesideFilm from '@/kit/BesideFilm.vue'

const { t } = useI18n()
const project = useProject()
const track = useTrack()
const player = usePlayer()
const transcript = useTranscript()
const making = useMaking()

const ways = computed(() => WAYS.map((value) => ({ value, title: t(`make.way.${value}`) })))
const letters = computed(() => LETTERS.map((value) => ({ value, title: t(`make.letters.${value}`) })))
const captions = computed(() => making.preview?.captions ?? [])
const { isTaken } = making
const allTaken = computed(() => making.takenCount === making.preview?.gone.length)
/** What would become of the track by what is chosen. */
const figures = computed(() => {
  const made = captions.value.filter(({ change, goes }) => !goes && isTaken(change)).length
  const gone = (making.preview?.gone ?? []).reduce((sum, count, change) => sum + (isTaken(change) ? count : 0), 0)
  return { made, gone, stay: track.captions.length - gone }
})
/** Whether the track would be another. */
const changes = computed(() => figures.value.made + figures.value.gone > 0)
/** Numbers that captions would have. */
const numbers = computed(() => {
  let number = 0
  return captions.value.map(({ goes }) => (goes ? number : ++number))
})
const current = ref<number | null>(null)
const list = ref<{ scrollToIndex: (index: number) => void } | null>(null)
const spec = computed(() => project.specs.find((one) => one.id === making.specId) ?? track.spec)

onMounted(() => {
  making.begin()
  void keysWaitFor(looked())
})
async function looked() {
  await transcript.closed()
  await track.settled()
  await look()
}
async function look() {
  // Without words there is nothing to ask for.
  if (project.words.length || project.project?.word_count) await making.look()
  else making.lookAtNothing(sentence({ code: 'words.none-yet' }))
}
watch([() => making.way, () => making.shape, () => making.letters, () => making.keep, () => making.specId, () => track.captions, () => project.words], () => void look(), { deep: 1 })

async function accept() {
  if (!changes.value || making.busy || making.outdated) return
  if (await making.accept()) await goTo('time')
}

/** Goes to the change behind the current one, or before it. */
function go(by: 1 | -1) {
  const count = making.preview?.gone.length ?? 0
  if (!count) return
  const from = current.value ?? (by > 0 ? -1 : count)
  current.value = Math.min(Math.max(from + by, 0), count - 1)
  list.value?.scrollToIndex(captions.value.findIndex(({ change }) => change === current.value))
}

function hear() {
  const own = captions.value.filter(({ change }) => change === current.value)
  if (own.length) player.hear(own[0]!.in_ms, own.at(-1)!.out_ms)
}

function picked(caption: Schemas['WouldBeView']) {
  current.value = caption.change ?? current.value
  player.hear(caption.in_ms, caption.out_ms)
}

function ticked(change: number, taken: boolean) {
  current.value = change
  making.choose(change, taken)
}

const chosen = () => current.value !== null
useCommands([
  { id: 'make-accept', run: () => void accept(), enabled: () => changes.value && !making.outdated },
  { id: 'make-next', run: () => go(1) },
  { id: 'make-before', run: () => go(-1) },
  { id: 'make-choose', run: () => making.choose(current.value!, !isTaken(current.value)), enabled: chosen },
  { id: 'make-choose-all', run: () => making.chooseAll(!allTaken.value) },
  { id: 'make-hear', run: hear, enabled: chosen },
])
</script>

<template>
  <div class="make">
    <p v-if="making.problem" class="problem" role="alert">{{ making.problem }}</p>
    <v-virtual-scroll v-else ref="list" class="would-be" :items="captions" item-height="52" role="list" :aria-label="t('make.preview')" tabindex="0">
      <template #default="{ item, index }">
        <div
          class="one"
          :class="{ stays: item.change === null, goes: item.goes, left: item.change !== null && !isTaken(item.change), on: item.change !== null && item.change === current }"
          role="listitem"
          data-would-be
          @click="picked(item)"
        >
          <input
            v-if="item.change !== null && item.change !== captions[index - 1]?.change"
            type="checkbox"
            :checked="isTaken(item.change)"
            :aria-label="t('make.take', { time: shortClock(item.in_ms) })"
            data-take
            @click.stop
            @change="ticked(item.change, ($event.target as HTMLInputElement).checked)"
          >
          <i v-else />
          <span class="time">{{ item.goes ? '' : numbers[index] }}</span>
          <span class="time">{{ shortClock(item.in_ms) }}</span>
          <p>{{ item.text }}</p>
          <small v-if="item.change === null" class="as-is">{{ t('make.stays') }}</small>
          <small v-else-if="item.goes" class="as-is">{{ t('make.goes') }}</small>
          <small v-else-if="item.rules.length" class="breaks">{{ item.rules.map((rule) => t(`check.rule.${rule}`)).join(', ') }}</small>
        </div>
      </template>
    </v-virtual-scroll>
    <BesideFilm dials :label="t('make.dials')">
      <ChoiceRow v-model="making.way" :label="t('make.dials')" :options="ways" />
      <div v-if="making.way === 'shape'" class="line">
        <label>{{ t('make.words') }} <input v-model.number="making.shape.words_per_line" type="number" min="1" max="20" data-words-a-line></label>
        <label>{{ t('make.lines') }} <input v-model.number="making.shape.lines" type="number" min="1" max="4" data-lines></label>
      </div>
      <label class="line">
        {{ making.way === 'spec' ? t('make.spec') : t('make.judged') }}
        <select v-model="making.specId" data-make-spec>
          <option value="">{{ t('make.trackSpec', { spec: track.spec?.name }) }}</option>
          <option v-for="one in project.specs" :key="one.id" :value="one.id">{{ one.name }}</option>
        </select>
      </label>
      <div class="line wide">
        <span>{{ t('make.lettersLabel') }}</span>
        <ChoiceRow v-model="making.letters" :label="t('make.lettersLabel')" :options="letters" />
      </div>
      <label v-if="track.captions.length" class="check"><input v-model="making.keep" type="checkbox" data-keep> {{ t('make.keep') }}</label>
      <label v-if="track.captions.length" class="check"><input v-model="making.keepOld" type="checkbox" data-keep-old> {{ t('make.beside') }}</label>
      <template v-if="making.preview">
        <p class="becomes" data-becomes>
          {{ t('make.made', figures.made) }}<template v-if="figures.stay">, {{ t('make.kept', figures.stay) }}</template><template v-if="figures.gone">, {{ t('make.replaced', figures.gone) }}</template>.
        </p>
        <p v-if="making.preview.gone.length > 1" class="chosen" data-chosen>
          {{ t('make.chosen', { taken: making.takenCount, all: making.preview.gone.length }) }}
          <button type="button" class="link" data-choose-all @click="making.chooseAll(!allTaken)">{{ t(allTaken ? 'make.takeNone' : 'make.takeAll') }}</button>
        </p>
        <ul class="rules">
          <li v-for="{ rule, weight, count: broken } in making.preview.rules" :key="rule + weight" :class="weight">
            <span>{{ t(`check.rule.${rule}`) }}</span><b class="time">{{ broken }}</b>
          </li>
          <li v-if="!making.preview.rules.length" class="fine">{{ t('meter.fine', { spec: spec?.name }) }}</li>
        </ul>
        <div class="line">
          <v-btn color="primary" variant="flat" :disabled="!changes || making.busy || making.outdated" data-accept-captions @click="accept">{{ figures.made || !figures.gone ? t('make.accept', figures.made) : t('make.takeAway', figures.gone) }}</v-btn>
          <KeyCap command="make-accept" />
        </div>
      </template>
    </BesideFilm>
  </div>
</template>

<style scoped>
.make {
  display: flex;
  flex: 1;
  flex-direction: column;
  min-height: 0;
}
.problem {
  margin: 24px;
  color: var(--heather);
}
.would-be {
  flex: 1;
  padding: 12px 20px 40px;
  outline-offset: -2px;
}
.one {
  display: grid;
  grid-template-columns: 16px 30px 68px minmax(0, 1fr) auto;
  gap: 10px;
  max-width: 720px;
  padding: 8px 10px;
  border-bottom: 1px solid var(--line);
  cursor: pointer;
}
.one:hover {
  background: var(--paper);
}
.one input {
  align-self: start;
  margin-top: 5px;
}
.one .time {
  padding-top: 3px;
  font-size: 12px;
  color: var(--soft);
}
.one p {
  margin: 0;
  font-size: 16px;
  line-height: 1.3;
  white-space: pre-line;
  overflow-wrap: anywhere;
}
.one small {
  max-width: 150px;
  font-size: 12px;
  text-align: right;
}
.one.on {
  background: var(--paper);
  box-shadow: inset 3px 0 var(--russet);
}
.stays p,
.left p {
  color: var(--soft);
}
.goes:not(.left) p {
  color: var(--soft);
  text-decoration: line-through;
}
.left .breaks {
  visibility: hidden;
}
.as-is {
  color: var(--tide);
}
.chosen {
  margin: 0;
  color: var(--soft);
}
.link {
  margin-left: 6px;
  color: var(--tide);
}
.breaks {
  color: var(--heather);
}
.line {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px;
}
.line.wide {
  display: grid;
  gap: 4px;
}
.line.wide > span {
  color: var(--soft);
}
input[type='number'],
select {
  padding: 4px 8px;
  font: 13px var(--text-font);
  color: var(--ink);
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 6px;
}
input[type='number'] {
  width: 58px;
}
.check {
  display: flex;
  align-items: center;
  gap: 8px;
}
.becomes {
  margin: 4px 0 0;
  font-size: 15px;
  font-weight: 600;
}
.rules {
  display: grid;
  gap: 5px;
  margin: 0;
  padding: 0;
  list-style: none;
}
.rules li {
  display: flex;
  justify-content: space-between;
  max-width: 300px;
}
.rules .error b {
  color: var(--heather);
}
.rules .advice b {
  color: var(--straw);
}
.rules .fine {
  color: var(--reed);
}
</style>
