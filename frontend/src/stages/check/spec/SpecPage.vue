<script setup lang="ts">
/** A delivery spec: its limits on or off, each with how many captions of this film break it. */
import { useDebounceFn } from '@vueuse/core'
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import { answered, client, Refused, type Spec } from '@/api/client'
import { newId, useTrack } from '@/session/tracksStore'
import { useHistory } from '@/session/historyStore'
import { useProject } from '@/session/projectStore'
import NewerSpec from '@/stages/check/spec/NewerSpec.vue'
import { goTo } from '@/router'
import DistributionChart from '@/stages/check/spec/DistributionChart.vue'
import LimitField from '@/stages/check/spec/LimitField.vue'
import { type Limit, type LimitName, limitTyped, type NumberLimit, pairsShown, pairsTyped, SECTIONS } from '@/stages/check/spec/limits'
import { useJudgement } from '@/stages/check/spec/judgement'

const { t } = useI18n()
const project = useProject()
const track = useTrack()
const history = useHistory()

const draft = shallowRef<Spec | null>(null)
const shipped = shallowRef<string[]>([])
const language = ref('')
const problem = ref('')
const file = ref<HTMLInputElement | null>(null)

/** Specs that ship are what they are; a copy can be anything. */
const own = computed(() => draft.value !== null && shipped.value.length > 0 && !shipped.value.includes(draft.value.id))
const languages = computed(() => Object.keys(draft.value?.by_language ?? {}))
const { judgement, distribution } = useJudgement(() => draft.value)

// The spec on the page is the track's; what is being edited here is newer than what the server tells,
// so it is read again only when the track comes to be judged by another.
watch(() => track.spec?.id, show, { immediate: true })
watch(
  () => project.specs,
  () => draft.value ?? show(track.spec?.id),
)

// What was taken back is shown as it is now, and this project judged by it, as it is by what is changed here.
watch(
  () => history.steps,
  async () => {
    const id = draft.value?.id
    draft.value = null
    show(project.specs.some((spec) => spec.id === id) ? id : track.spec?.id)
    if (draft.value) await project.takeSpec((draft.value as Spec).id)
  },
)

function show(id: string | undefined) {
  if (!id || draft.value?.id === id) return
  // A project keeps the spec it took, also when the house does not have it any more.
  const taken = project.project?.spec.id === id ? project.project.spec : null
  draft.value = project.specs.find((spec) => spec.id === id) ?? taken
  language.value = ''
}

onMounted(async () => (shipped.value = await answered(client.GET('/api/specs/shipped'))))

const asked = (name: LimitName) => {
  const special = language.value ? draft.value?.by_language?.[language.value]?.[name] : undefined
  return special === undefined ? draft.value?.[name] : special
}
const isOn = (limit: Limit) => {
  const value = asked(limit.name)
  if (limit.kind === 'switch') return Boolean(value) !== Boolean(limit.inverse)
  return value !== null && value !== undefined && value !== '' && !(Array.isArray(value) && !value.length)
}
const special = (name: LimitName) => Boolean(language.value && draft.value?.by_language?.[language.value]?.[name] !== undefined)

const store = useDebounceFn(async () => {
  const spec = draft.value
  if (!spec) return
  try {
    await project.addSpec(JSON.stringify(spec))
    problem.value = ''
    wrong.value = {}
  } catch (error) {
    const limit = error instanceof Refused ? (error.values.limit as LimitName | undefined) : undefined
    if (limit && error instanceof Refused && limit in spec) wrong.value = { ...wrong.value, [limit]: String(error.values.reason) }
    else problem.value = (error as Error).message
  }
}, 350)

function set(name: LimitName, value: unknown) {
  const spec = draft.value!
  if (language.value) {
    const all = { ...spec.by_language }
    all[language.value] = { ...all[language.value], [name]: value }
    draft.value = { ...spec, by_language: all }
  } else {
    draft.value = { ...spec, [name]: value }
  }
  void store()
}
function turn(limit: Limit, on: boolean) {
  if (limit.kind === 'switch') set(limit.name, on !== Boolean(limit.inverse))
  else if (limit.kind === 'number') set(limit.name, on ? limit.usual : null)
  else if (limit.kind === 'choice') set(limit.name, on ? limit.choices[0] : null)
  else if (limit.kind === 'pairs') set(limit.name, on ? [[20, 1500], [40, 2500]] : [])
  else set(limit.name, on ? (limit.usual ?? '#') : limit.name === 'programme_start' ? null : '')
}
/** What is wrong with what was typed, by the limit it was typed for. */
const wrong = ref<Partial<Record<LimitName, string>>>({})

function typed(limit: NumberLimit, text: string) {
  const value = limitTyped(text, limit.unit, project.rate)
  const problem = value === null ? t(limit.unit === 'ms' || limit.unit === 'frames' ? 'spec.noDuration' : 'spec.noNumber', { text }) : undefined
  wrong.value = { ...wrong.value, [limit.name]: problem }
  if (value !== null && value !== asked(limit.name)) set(limit.name, value)
}
function typedPairs(name: LimitName, text: string) {
  const pairs = pairsTyped(text, project.rate)
  wrong.value = { ...wrong.value, [name]: pairs ? undefined : t('spec.noPairs', { text }) }
  if (pairs && pairsShown(pairs) !== pairsShown(asked(name) as unknown as number[][])) set(name, pairs)
}
function weigh(rule: string) {
  const spec = draft.value!
  const advice = (spec.advice ?? []) as string[]
  const now = advice.includes(rule) ? advice.filter((name) => name !== rule) : [...advice, rule]
  draft.value = { ...spec, advice: now as Spec['advice'] }
  void store()
}
const isAdvice = (rule: string) => ((draft.value?.advice ?? []) as string[]).includes(rule)

function rename(name: string) {
  if (!name.trim() || name.trim() === draft.value?.name) return
  draft.value = { ...draft.value!, name: name.trim() }
  void store()
}
function addLanguage(tag: string) {
  if (!/^[A-Za-z]{2,3}(-[A-Za-z0-9]{2,8})*$/.test(tag)) return
  draft.value = { ...draft.value!, by_language: { [tag]: {}, ...draft.value!.by_language } }
  language.value = tag
  void store()
}

async function take(spec: Spec) {
  const kept = await project.addSpec(JSON.stringify(spec))
  await choose(kept.id)
}
async function copy() {
  const from = draft.value!
  await take({ ...from, id: `own-${newId()}`, name: t('spec.copyOf', { name: from.name }) })
}
async function choose(id: string) {
  draft.value = project.specs.find((spec) => spec.id === id) ?? null
  if (project.trackInfo?.spec_id) await project.changeTrack({ spec_id: id })
  else await project.change({ spec_id: id })
}
async function bringIn(event: Event) {
  const input = event.target as HTMLInputElement
  const text = await input.files?.[0]?.text()
  input.value = ''
  if (text === undefined) return
  try {
    const kept = await project.addSpec(text)
    problem.value = ''
    await choose(kept.id)
  } catch (error) {
    problem.value = t('spec.notTaken', { reason: (error as Error).message })
  }
}
async function remove() {
  const id = draft.value!.id
  await answered(client.DELETE('/api/specs/{spec_id}', { params: { path: { spec_id: id } } }))
  await project.loadSpecs()
  await choose('streaming')
}
</script>

<template>
  <div v-if="draft" class="spec-page">
    <header>
      <v-btn size="small" class="back" @click="goTo('check')">{{ t('spec.back') }}</v-btn>
      <LimitField v-if="own" :key="draft.id" class="name" :value="draft.name" :aria-label="t('spec.name')" @change="rename" />
      <h1 v-else class="name">{{ draft.name }}</h1>
      <span class="acts">
        <v-btn size="small" :color="own ? undefined : 'primary'" :variant="own ? 'outlined' : 'flat'" data-copy-spec @click="copy">
          {{ t('spec.copy') }}
        </v-btn>
        <v-btn size="small" :href="`/api/specs/${encodeURIComponent(draft.id)}/file`" download>{{ t('spec.share') }}</v-btn>
        <v-btn size="small" @click="file?.click()">{{ t('spec.bringIn') }}</v-btn>
        <v-btn v-if="own" size="small" @click="remove">{{ t('spec.remove') }}</v-btn>
        <input ref="file" type="file" accept=".json" class="visually-hidden" tabindex="-1" :aria-label="t('spec.bringIn')" @change="bringIn">
      </span>
    </header>
    <p class="soft about">{{ own ? t('spec.ownBody') : t('spec.shippedBody', { description: draft.description }) }}</p>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <NewerSpec />
    <div class="languages">
      <button :class="{ on: !language }" @click="language = ''">{{ t('spec.allLanguages') }}</button>
      <button v-for="tag in languages" :key="tag" :class="{ on: language === tag }" @click="language = tag">{{ tag }}</button>
      <input
        v-if="own" class="tag" :placeholder="t('spec.addLanguage')" :aria-label="t('spec.addLanguage')"
        @change="addLanguage(($event.target as HTMLInputElement).value.trim()), (($event.target as HTMLInputElement).value = '')"
      >
    </div>
    <fieldset v-for="section in SECTIONS" :key="section.name" :disabled="!own">
      <legend>{{ t(`spec.section.${section.name}`) }}</legend>
      <div v-for="limit in section.limits" :key="limit.name" class="limit" :class="{ off: !isOn(limit), special: special(limit.name) }" :data-limit="limit.name">
        <label class="switch">
          <input type="checkbox" :checked="isOn(limit)" @change="turn(limit, ($event.target as HTMLInputElement).checked)">
          <span>{{ t(`spec.limit.${limit.name}`) }}</span>
        </label>
        <span class="control">
          <template v-if="isOn(limit)">
            <template v-if="limit.kind === 'number'">
              <LimitField
                class="number time" inputmode="text" :aria-invalid="Boolean(wrong[limit.name])" :value="Number(asked(limit.name))" :aria-label="t(`spec.limit.${limit.name}`)"
                @change="typed(limit, $event)"
              />
              <span class="soft">{{ t(`spec.unit.${limit.unit}`) }}</span>
            </template>
            <select
              v-else-if="limit.kind === 'choice'" :value="asked(limit.name)" :aria-label="t(`spec.limit.${limit.name}`)"
              @change="set(limit.name, ($event.target as HTMLSelectElement).value)"
            >
              <option v-for="choice in limit.choices" :key="choice" :value="choice">{{ t(`spec.choice.${limit.name}.${limit.choices.indexOf(choice)}`) }}</option>
            </select>
            <LimitField
              v-else-if="limit.kind === 'pairs'" class="characters" :value="pairsShown(asked(limit.name) as unknown as number[][])"
              :aria-label="t(`spec.limit.${limit.name}`)" @change="typedPairs(limit.name, $event)"
            />
            <LimitField
              v-else-if="limit.kind === 'text'" class="characters" :value="String(asked(limit.name) ?? '')" :aria-label="t(`spec.limit.${limit.name}`)"
              @change="set(limit.name, $event)"
            />
          </template>
        </span>
        <span class="spread">
          <em v-if="wrong[limit.name]" class="problem" role="alert" data-limit-wrong>{{ wrong[limit.name] }}</em>
          <DistributionChart
            v-if="limit.kind === 'number' && limit.measure && isOn(limit) && distribution(limit.measure)"
            :distribution="distribution(limit.measure)!"
            :limit="Number(asked(limit.name))"
            :breaks="limit.breaks ?? 'above'"
            :step="limit.step ?? 1"
            :label="t(`spec.limit.${limit.name}`)"
            @limit="own && set(limit.name, $event)"
          />
        </span>
        <span class="broken" :class="{ some: limit.rule && judgement?.broken[limit.rule] }" :data-broken="limit.rule">
          <template v-if="limit.rule && isOn(limit) && judgement">{{ t('spec.broken', judgement.broken[limit.rule] ?? 0) }}</template>
        </span>
        <button
          v-if="limit.rule && isOn(limit)" class="weight" :class="{ advice: isAdvice(limit.rule) }"
          :title="t('spec.weightTitle')" @click="weigh(limit.rule)"
        >
          <svg viewBox="0 0 12 12" aria-hidden="true"><path v-if="!isAdvice(limit.rule)" d="M6 0l6 6-6 6-6-6z" /><circle v-else cx="6" cy="6" r="4.300" /></svg>
          {{ t(isAdvice(limit.rule) ? 'spec.advice' : 'spec.error') }}
        </button>
      </div>
    </fieldset>
  </div>
</template>

<style scoped>
.spec-page {
  height: 100%;
  overflow-y: auto;
  padding: 14px 20px 60px;
}
header {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px;
}
.name {
  flex: 1 1 320px;
  margin: 0;
  font: 650 18px var(--text-font);
}
input.name,
.tag,
.number,
.characters,
select {
  color: var(--ink);
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 6px;
  padding: 3px 8px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.about {
  margin: 6px 0 10px;
}
.problem {
  color: var(--heather);
}
.languages {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin-bottom: 8px;
}
.languages button {
  font: inherit;
  color: var(--soft);
  padding: 3px 10px;
  background: none;
  border: 1px solid var(--line);
  border-radius: 6px;
}
.languages button.on {
  color: var(--ink);
  background: var(--paper);
  border-color: var(--russet);
}
.tag {
  width: 118px;
}
fieldset {
  min-width: 0;
  margin: 0 0 14px;
  padding: 0;
  border: 0;
}
legend {
  padding: 8px 0 4px;
  font-size: 12px;
  font-weight: 650;
  color: var(--soft);
}
.limit {
  display: grid;
  grid-template-columns: minmax(170px, 1.3fr) 150px minmax(90px, 1fr) 74px 74px;
  align-items: center;
  gap: 12px;
  min-height: 40px;
  padding: 3px 10px;
  background: var(--paper);
  border: 1px solid var(--line);
  border-bottom-width: 0;
}
@media (max-width: 1150px) {
  .limit {
    grid-template-columns: minmax(118px, 1.2fr) 122px minmax(56px, 1fr) 66px 66px;
    gap: 8px;
  }
  select {
    max-width: 122px;
  }
}
.limit:last-child {
  border-bottom-width: 1px;
  border-radius: 0 0 6px 6px;
}
.limit:nth-of-type(1) {
  border-radius: 6px 6px 0 0;
}
.limit.off {
  background: none;
}
.limit.off .switch span {
  color: var(--soft);
}
.limit.special {
  box-shadow: inset 3px 0 0 var(--tide);
}
.switch {
  display: flex;
  align-items: center;
  gap: 9px;
}
.switch input {
  flex: none;
  width: 16px;
  height: 16px;
}
.control {
  display: flex;
  align-items: center;
  gap: 7px;
}
.number {
  width: 66px;
  text-align: right;
}
.characters {
  width: 100%;
}
select {
  max-width: 150px;
}
.spread {
  padding-top: 4px;
}
.broken {
  font-size: 12px;
  text-align: right;
  color: var(--reed);
}
.broken.some {
  color: var(--heather);
  font-weight: 600;
}
.weight {
  display: flex;
  align-items: center;
  gap: 6px;
  font: 12px var(--text-font);
  color: var(--heather);
  background: none;
  border: 0;
}
.weight svg {
  width: 11px;
  height: 11px;
  fill: currentColor;
}
.weight.advice {
  color: var(--straw);
}
.weight.advice svg {
  fill: none;
  stroke: currentColor;
  stroke-width: 2;
}
</style>
