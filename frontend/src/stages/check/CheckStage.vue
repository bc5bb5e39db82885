<script setup lang="ts">
import { computed, nextTick, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import type { Finding } from '@/api/client'
import { usePlayer } from '@/picture/playerStore'
import { textOf } from '@/session/captions'
import { useTrack } from '@/session/tracksStore'
import { goTo } from '@/router'
import { useSelection } from '@/score/selectionStore'
import { useCommands } from '@/kit/commands/commands'
import { limitText } from '@/kit/findings'
import DistributionChart from '@/stages/check/spec/DistributionChart.vue'
import { useJudgement } from '@/stages/check/spec/judgement'
import { measuredLimit } from '@/stages/check/spec/limits'
import FindingCard from '@/stages/check/FindingCard.vue'
import FindingStrip from '@/stages/check/FindingStrip.vue'
import { type Rule, useMends } from '@/stages/check/mendStore'
import NewerSpec from '@/stages/check/spec/NewerSpec.vue'
import { useReport } from '@/stages/deliver/report'
import BesideFilm from '@/kit/BesideFilm.vue'

const { t } = useI18n()
const track = useTrack()
const player = usePlayer()
const selection = useSelection()
const mends = useMends()
const { reportAddress } = useReport()

/** More places than anybody reads at once; the rest come when these are mended. */
const MOST_SHOWN = 300

const at = ref(0)
const waiving = ref(false)
const said = ref('')
const show = ref<'all' | 'error' | 'advice' | 'waived'>('all')
const order = ref<'time' | 'worst'>('time')
const tried = shallowRef<number | null>(null)

interface Place {
  finding: Finding
  number: number
  text: string
}

const all = computed<Place[]>(() =>
  track.captions.flatMap((caption, index) =>
    caption.findings.map((finding) => ({ finding, number: index + 1, text: textOf(caption) })),
  ),
)
const open = computed(() => all.value.filter((place) => !place.finding.waived))
const waived = computed(() => all.value.filter((place) => place.finding.waived))
const groups = computed(() => {
  const counts = new Map<Rule, { name: Rule; count: number; error: boolean; limit: string }>()
  for (const { finding } of open.value) {
    const group = counts.get(finding.rule)
    if (group) group.count++
    else counts.set(finding.rule, { name: finding.rule, count: 1, error: finding.weight === 'error', limit: limitText(t, finding) })
  }
  return [...counts.values()].sort((a, b) => Number(b.error) - Number(a.error) || b.count - a.count)
})
const badness = ({ finding }: Place) => Math.abs(finding.measured - finding.limit) / Math.max(Math.abs(finding.limit), 1)
const places = computed(() => {
  const from = show.value === 'waived' ? waived.value : open.value
  const found = from.filter(
    ({ finding }) =>
      (!mends.rule || finding.rule === mends.rule) && (show.value === 'all' || show.value === 'waived' || finding.weight === show.value),
  )
  if (order.value === 'time') return found
  // Only what one rule measures can be compared: the worst of each, rule by rule.
  const rules = groups.value.map((group) => group.name)
  return [...found].sort((a, b) => rules.indexOf(a.finding.rule) - rules.indexOf(b.finding.rule) || badness(b) - badness(a))
})
const current = computed(() => places.value[at.value])
/** Whether the finding that the list stands at is the one that is looked at. */
const seen = computed(() => current.value !== undefined && selection.currentId === current.value.finding.caption)
const errors = computed(() => open.value.filter((place) => place.finding.weight === 'error').length)

const limit = computed(() => measuredLimit(mends.rule))
const specLimit = computed(() => {
  const value = limit.value && track.spec?.[limit.value.name]
  return typeof value === 'number' ? value : null
})
const shownLimit = computed(() => tried.value ?? specLimit.value)
const trial = computed(() =>
  track.spec && limit.value && tried.value !== null ? { ...track.spec, [limit.value.name]: tried.value } : track.spec,
)
const { judgement, distribution } = useJudgement(() => trial.value)

watch(() => mends.rule, () => (tried.value = null))
watch(places, (now) => (at.value = Math.min(at.value, Math.max(now.length - 1, 0))))
onMounted(() => (mends.shown = true))
onBeforeUnmount(() => (mends.shown = false))

function look(index: number) {
  const place = places.value[index]
  if (!place) return
  at.value = index
  waiving.value = false
  selection.only(place.finding.caption)
  player.place(place.finding.in_ms)
  void nextTick(() => document.querySelector('.place.on')?.scrollIntoView({ block: 'nearest' }))
}
function lookAt(ms: number) {
  let nearest = 0
  places.value.forEach(({ finding }, index) => {
    if (Math.abs(finding.in_ms - ms) < Math.abs(places.value[nearest]!.finding.in_ms - ms)) nearest = index
  })
  look(nearest)
}
function goThere() {
  look(at.value)
  void goTo('time')
}
function choose(name: Rule | null, which: typeof show.value = 'all') {
  mends.rule = name
  show.value = which
  at.value = 0
  waiving.value = false
}
async function mend(these: readonly { rule: Rule; caption: string }[]) {
  const count = await mends.mend(these)
  said.value = count ? t('check.mended', count) : t('check.nothingMended')
}
function mendCurrent() {
  const finding = current.value?.finding
  if (finding && mends.of(finding)?.reason === null) void mend([finding])
}
async function waive(reason: string) {
  const finding = current.value?.finding
  if (!finding || !reason.trim()) return
  waiving.value = false
  await mends.waive(finding, reason)
}
function waiveOrTakeBack() {
  const finding = current.value?.finding
  if (finding?.waived) void mends.takeBack(finding)
  else waiving.value = true
}
function hear() {
  const finding = current.value?.finding
  const caption = finding && track.byId.get(finding.caption)
  if (caption) player.hear(caption.in_ms, caption.out_ms)
}

const any = () => places.value.length > 0
useCommands([
  { id: 'finding-next', run: () => look(seen.value ? at.value + 1 : at.value), enabled: any },
  { id: 'finding-before', run: () => look(Math.max(at.value - 1, 0)), enabled: any },
  { id: 'finding-go', run: goThere, enabled: any },
  { id: 'finding-hear', run: hear, enabled: any },
  { id: 'finding-mend', run: mendCurrent, enabled: any },
  { id: 'finding-mend-all', run: () => void mend(mends.chosen), enabled: () => mends.chosen.length > 0 },
  { id: 'finding-choose', run: () => mends.choose(current.value!.finding, !mends.isChosen(current.value!.finding)), enabled: any },
  { id: 'finding-waive', run: waiveOrTakeBack, enabled: any },
  { id: 'edit-spec', run: () => void goTo('spec') },
])
</script>

<template>
  <div class="check">
    <nav class="rules" :aria-label="t('check.rules')">
      <p v-if="track.loaded" class="section-title">{{ t('check.count', open.length) }} · {{ t('check.errors', errors) }}</p>
      <button class="rule whole" :class="{ on: mends.rule === null && show !== 'waived' }" @click="choose(null)">
        <span>{{ t('check.all') }}</span><b>{{ open.length }}</b>
      </button>
      <button
        v-for="group in groups"
        :key="group.name"
        class="rule"
        :class="{ on: mends.rule === group.name && show !== 'waived', advice: !group.error }"
        :data-rule="group.name"
        @click="choose(group.name)"
      >
        <svg viewBox="0 0 12 12" aria-hidden="true">
          <path v-if="group.error" d="M6 0l6 6-6 6-6-6z" />
          <circle v-else cx="6" cy="6" r="4.300" />
        </svg>
        <span>{{ t(`check.rule.${group.name}`) }}<small>{{ group.limit }}</small></span><b>{{ group.count }}</b>
      </button>
      <template v-if="waived.length">
        <p class="section-title">{{ t('check.waivedTitle') }}</p>
        <button class="rule whole" :class="{ on: show === 'waived' }" data-waived @click="choose(null, 'waived')">
          <span>{{ t('check.waivedAll') }}</span><b>{{ waived.length }}</b>
        </button>
      </template>
    </nav>
    <section class="found" :aria-label="t('check.places')">
      <header>
        <h1>{{ show === 'waived' ? t('check.waivedAll') : mends.rule ? t(`check.rule.${mends.rule}`) : t('check.all') }}</h1>
        <span class="sift">
          <select v-model="show" :aria-label="t('check.filter')">
            <option v-for="value in ['all', 'error', 'advice', 'waived']" :key="value" :value="value">{{ t(`check.show.${value}`) }}</option>
          </select>
          <select v-model="order" :aria-label="t('check.sort')">
            <option v-for="value in ['time', 'worst']" :key="value" :value="value">{{ t(`check.order.${value}`) }}</option>
          </select>
        </span>
      </header>
      <NewerSpec />
      <p class="soft">{{ t('check.by', { spec: track.spec?.name }) }}</p>
      <FindingStrip :findings="places.map((place) => place.finding)" :current="current?.finding" @show="lookAt" />
      <p v-if="track.loaded && !open.length && show !== 'waived'" class="clean">
        {{ track.captions.length ? t('check.clean', { spec: track.spec?.name }) : t('check.nothing') }}
      </p>
      <p v-else-if="track.loaded && mends.rule && show === 'all' && !places.length" class="clean" data-rule-done>
        {{ t('check.ruleDone', { rule: t(`check.rule.${mends.rule}`) }) }}
        <button type="button" class="link" @click="choose(null)">{{ t('check.all') }}</button>
      </p>
      <ol class="places">
        <FindingCard
          v-for="(place, index) in places.slice(0, MOST_SHOWN)"
          :key="place.finding.rule + place.finding.caption + index"
          :finding="place.finding"
          :number="place.number"
          :text="place.text"
          :current="index === at && seen"
          :waiving="waiving && index === at"
          @show="look(index)"
          @go="((at = index), goThere())"
          @waive="waive"
          @leave="waiving = false"
        />
      </ol>
      <p v-if="places.length > MOST_SHOWN" class="soft">{{ t('check.more', places.length - MOST_SHOWN) }}</p>
    </section>
    <footer v-if="places.length" class="acts">
      <v-btn v-if="show !== 'waived'" color="primary" variant="flat" :disabled="!mends.chosen.length" data-mend-all @click="mend(mends.chosen)">
        {{ t('check.mendAll', mends.chosen.length) }}
      </v-btn>
      <v-btn
        v-if="show !== 'waived'" color="primary" data-mend
        :disabled="!current || mends.of(current.finding)?.reason !== null" @click="mendCurrent"
      >
        {{ t('check.mend') }}
      </v-btn>
      <v-btn :disabled="!current" data-waive @click="waiveOrTakeBack">
        {{ current?.finding.waived ? t('check.takeBack') : t('check.waive') }}
      </v-btn>
      <v-btn :disabled="!current" @click="goThere">{{ t('check.go') }}</v-btn>
      <span class="soft" role="status">{{ said || t('check.oneStep') }}</span>
    </footer>
    <BesideFilm>
      <section v-if="limit && shownLimit !== null && distribution(limit.measure)" class="side">
        <p class="section-title">
          <span>{{ t('check.spread', { rule: t(`check.rule.${mends.rule}`) }) }}</span>
          <span class="time">{{ t('check.limit', { limit: shownLimit }) }}</span>
        </p>
        <DistributionChart
          large
          :distribution="distribution(limit.measure)!"
          :limit="shownLimit"
          :breaks="limit.breaks ?? 'above'"
          :step="limit.step ?? 1"
          :label="t(`spec.limit.${limit.name}`)"
          @limit="tried = $event"
        />
        <p class="soft">
          <template v-if="tried !== null && tried !== specLimit">
            {{ t('check.tried', { count: judgement?.broken[mends.rule!] ?? 0, limit: tried }) }}
            <button class="link" @click="tried = null">{{ t('check.asSpec') }}</button>
          </template>
          <template v-else>{{ t('check.dragLimit') }}</template>
        </p>
      </section>
      <section class="side row">
        <span><b class="section-title">{{ t('top.spec', { spec: track.spec?.name }) }}</b></span>
        <router-link :to="{ name: 'spec' }" data-edit-spec>{{ t('check.editSpec') }}</router-link>
      </section>
      <section class="side row">
        <b class="section-title">{{ t('check.report') }}</b>
        <a :href="reportAddress(track.id)" target="_blank" data-report>{{ t('check.openReport') }}</a>
      </section>
    </BesideFilm>
  </div>
</template>

<style scoped>
.check {
  display: grid;
  grid-template: minmax(0, 1fr) auto / 206px minmax(0, 1fr);
  height: 100%;
}
.rules {
  grid-row: 1 / 3;
  padding: 12px 0;
  border-right: 1px solid var(--line);
  overflow-y: auto;
}
.rules .section-title {
  padding: 0 16px 8px;
}
.rule + .section-title {
  padding-top: 16px;
}
.rule {
  display: grid;
  grid-template-columns: 14px 1fr auto;
  align-items: center;
  gap: 10px;
  width: 100%;
  padding: 7px 16px 7px 13px;
  text-align: left;
  font: inherit;
  color: var(--ink);
  background: none;
  border: 0;
  border-left: 3px solid transparent;
}
.rule.whole {
  grid-template-columns: 1fr auto;
}
.rule.on {
  background: var(--paper);
  border-left-color: var(--russet);
}
.rule small {
  display: block;
  font-size: 12px;
  color: var(--soft);
}
.rule svg {
  width: 12px;
  height: 12px;
  fill: var(--heather);
}
.rule.advice svg {
  fill: none;
  stroke: var(--straw-bright);
  stroke-width: 2;
}
.found {
  overflow-y: auto;
  padding: 14px 18px 20px;
}
.found header {
  display: flex;
  align-items: center;
  gap: 12px;
}
.sift {
  display: flex;
  gap: 6px;
  margin-left: auto;
}
select {
  font: 13px var(--text-font);
  color: var(--ink);
  padding: 3px 6px;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 6px;
}
h1 {
  margin: 0;
  font-size: 17px;
}
.found > p {
  margin: 2px 0 10px;
}
.clean {
  color: var(--reed);
  font-size: 15px;
}
.places {
  display: grid;
  gap: 8px;
  margin: 0;
  padding: 0;
  list-style: none;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
  padding: 8px 18px;
  border-top: 1px solid var(--line);
}
.acts span {
  margin-left: auto;
  font-size: 13px;
}
.side {
  padding: 12px 16px;
  border-top: 1px solid var(--line);
}
.side p {
  margin: 6px 0 0;
  font-size: 13px;
}
.side p.section-title,
.side.row {
  display: flex;
  justify-content: space-between;
  margin: 0 0 8px;
}
.side.row {
  margin: 0;
}
.link {
  font: inherit;
  color: var(--tide);
  text-decoration: underline;
  background: none;
  border: 0;
}
</style>
