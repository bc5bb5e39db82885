<script setup lang="ts">
/** What can be set of a look: how much is shown at once, how the spoken word is told, which words weigh, and what is seen. */
import { computed, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import ChoiceRow from '@/kit/ChoiceRow.vue'
import KeyCap from '@/kit/commands/KeyCap.vue'
import { goingOn } from '@/session/goingOn'
import KeepLook from '@/stages/style/short/KeepLook.vue'
import CaptionPlace from '@/stages/style/short/CaptionPlace.vue'
import OpeningHeading from '@/stages/style/short/OpeningHeading.vue'
import TightOnes from '@/stages/style/short/TightOnes.vue'
import VersionPanel from '@/stages/style/short/VersionPanel.vue'
import WordLetters from '@/stages/style/short/WordLetters.vue'
import { type ShortLook, useShort } from '@/stages/style/short/shortStore'
import { CASES, ENTRANCES } from '@/stages/style/properties'
import type { Look } from '@/styling/looks'

defineProps<{ masked: boolean }>()
const emit = defineEmits<{ mask: [] }>()

const TELLINGS = ['cut', 'wash', 'slide', 'draw', 'rise', 'grow', 'type'] as const
const BY = ['amount', 'breath', 'spec'] as const
/** What players cover, by how much they put over the picture: edges as parts of it. */
const ROOMS = {
  all: { left: 0.03, top: 0.03, right: 0.97, bottom: 0.97 },
  below: { left: 0.03, top: 0.06, right: 0.97, bottom: 0.8 },
  buttons: { left: 0.05, top: 0.08, right: 0.84, bottom: 0.78 },
} as const
type Room = keyof typeof ROOMS

const { t } = useI18n()
const short = useShort()
const look = computed(() => short.current!)
const style = computed(() => look.value.style)

/** While a dial is turned, it is one gesture. */
const gesture = goingOn()
const change = (dial: string, now: Partial<ShortLook>) => void short.apply({ ...look.value, ...now }, gesture(dial))
const restyle = (dial: string, now: Partial<Look>) => change(dial, { style: { ...style.value, ...now } })

const by = computed({
  get: () => look.value.rhythm?.by ?? 'amount',
  set: (now) => change('by', { rhythm: { amount: look.value.rhythm?.amount ?? 3, by: now } }),
})
const bys = computed(() => BY.map((value) => ({ value, title: t(`short.rhythm.${value}`) })))
const amount = computed({
  get: () => look.value.rhythm?.amount ?? 3,
  set: (now: number) => change('amount', { rhythm: { by: 'amount', amount: now } }),
})
const example = computed(() => short.state?.examples[amount.value - 1]?.replaceAll('\n', ' / ') ?? '')

const caseOf = computed({ get: () => style.value.case ?? 'written', set: (now) => restyle('case', { case: now }) })
const cases = computed(() => CASES.map((value) => ({ value, title: t(`short.case.${value}`) })))
const telling = computed({ get: () => style.value.spoken_by ?? 'cut', set: (now) => restyle('telling', { spoken_by: now }) })
const comes = computed({ get: () => style.value.comes ?? 'cut', set: (now) => restyle('comes', { comes: now }) })
const entrances = computed(() => ENTRANCES.map((value) => ({ value, title: t(`style.entrance.${value}`) })))

/** A colour of a state of words: of its letters, or of what is behind them. */
type State = 'spoken' | 'said' | 'to_come' | 'emphasis' | 'emphasis_2'
const colourOf = (state: State, part: 'colour' | 'background') => style.value[state]?.[part] ?? ''
function recolour(state: State, part: 'colour' | 'background', event: Event) {
  const colour = (event.target as HTMLInputElement).value.toUpperCase()
  restyle(`${state} ${part}`, { [state]: { ...style.value[state], [part]: colour } })
}
function clear(state: State, part: 'colour' | 'background') {
  restyle(`${state} ${part}`, { [state]: { ...style.value[state], [part]: null } })
}
/** Of what says nothing any more of such words, nothing is left. */
function reletter(state: State, part: string, value: unknown) {
  const said = Object.entries({ ...style.value[state], [part]: value }).filter(([, one]) => one !== null && one !== undefined)
  restyle(`${state} ${part}`, { [state]: said.length ? Object.fromEntries(said) : null })
}
const pale = computed({
  get: () => Math.round((style.value.to_come?.opacity ?? 1) * 100),
  set: (now: number) => restyle('pale', { to_come: { ...style.value.to_come, opacity: now / 100 } }),
})
const larger = computed({
  get: () => Math.round((style.value.spoken?.scale ?? 1) * 100),
  set: (now: number) => restyle('larger', { spoken: { ...style.value.spoken, scale: now === 100 ? null : now / 100 } }),
})
const size = computed({
  get: () => Math.round((style.value.size ?? 0.07) * 1000) / 10,
  set: (now: number) => now > 0 && restyle('size', { size: now / 100 }),
})

const share = computed({
  get: () => Math.round((look.value.weighing?.share ?? 0.12) * 100),
  set: (now: number) => change('share', { weighing: { colours: look.value.weighing?.colours ?? 1, share: now / 100 } }),
})
const COLOURS = ['0', '1', '2'] as const
const colours = computed({
  get: () => String(look.value.weighing?.colours ?? 1) as (typeof COLOURS)[number],
  set: (now) => change('colours', { weighing: { share: look.value.weighing?.share ?? 0.12, colours: Number(now) } }),
})
const colourChoices = computed(() => COLOURS.map((value) => ({ value, title: t(`short.colours.${value}`) })))

const room = computed<Room | 'own'>(() => {
  const seen = short.seen
  return (Object.keys(ROOMS) as Room[]).find((name) => Object.entries(ROOMS[name]).every(([edge, at]) => seen?.[edge as keyof typeof seen] === at)) ?? 'own'
})
const roomChosen = computed({ get: () => room.value as string, set: (now) => now in ROOMS && void short.apply(look.value, gesture('seen'), ROOMS[now as Room]) })
const rooms = computed(() => [...Object.keys(ROOMS), ...(room.value === 'own' ? ['own'] : [])].map((value) => ({ value, title: t(`short.room.${value}`) })))
const EDGES = ['left', 'top', 'right', 'bottom'] as const
function moveEdge(edge: (typeof EDGES)[number], event: Event) {
  const percent = Math.min(Math.max(Number((event.target as HTMLInputElement).value) || 0, 0), 45)
  const at = edge === 'left' || edge === 'top' ? percent / 100 : 1 - percent / 100
  void short.apply(look.value, gesture('seen'), { ...short.seen!, [edge]: at })
}
const edgePercent = (edge: (typeof EDGES)[number]) => {
  const at = short.seen?.[edge] ?? 0
  return Math.round((edge === 'left' || edge === 'top' ? at : 1 - at) * 100)
}

/** Sliders are moved before anything is stored: a number is shown at once. */
const sliding = ref<number | null>(null)
watch(amount, () => (sliding.value = null))
</script>

<template>
  <section class="dials" :aria-label="t('short.dials')">
    <VersionPanel />
    <p class="section-title">{{ t('short.rhythmTitle') }} <small class="soft">{{ t('short.keepsTimes') }}</small></p>
    <div class="dial"><ChoiceRow v-model="by" :label="t('short.rhythmTitle')" :options="bys" /></div>
    <label v-if="by === 'amount'" class="dial">
      <span>{{ t('short.atOnce') }} <KeyCap command="rhythm-less" /> <KeyCap command="rhythm-more" /></span>
      <input type="range" min="1" :max="short.state?.examples.length ?? 7" step="1" :value="sliding ?? amount" :aria-valuetext="example" data-amount @input="sliding = Number(($event.target as HTMLInputElement).value)" @change="amount = Number(($event.target as HTMLInputElement).value)" />
    </label>
    <p v-if="by === 'amount'" class="example" data-example>{{ (sliding ? short.state?.examples[sliding - 1]?.replaceAll('\n', ' / ') : example) || t('short.noExample') }}</p>
    <div class="dial"><span>{{ t('short.letters') }}</span><ChoiceRow v-model="caseOf" :label="t('short.letters')" :options="cases" /></div>
    <label class="dial"><span>{{ t('short.size') }}</span><input v-model.lazy.number="size" type="number" min="2" max="60" step="0.5" class="time" data-short-size /> %</label>
    <CaptionPlace />
    <div class="dial"><span>{{ t('style.row.comes') }}</span><ChoiceRow v-model="comes" :label="t('style.row.comes')" :options="entrances" /></div>

    <p class="section-title">{{ t('short.emphasis') }}</p>
    <label class="dial">
      <span>{{ t('short.spokenWord') }}</span>
      <select v-model="telling" data-telling><option v-for="one in TELLINGS" :key="one" :value="one">{{ t(`short.telling.${one}`) }}</option></select>
    </label>
    <div class="dial colours">
      <label><input type="color" :value="colourOf('spoken', 'colour') || style.colour || '#FFFFFF'" :class="{ empty: !colourOf('spoken', 'colour') }" data-spoken-colour @change="recolour('spoken', 'colour', $event)" />{{ t('short.itsLetters') }}</label>
      <label><input type="color" :value="colourOf('spoken', 'background') || '#000000'" :class="{ empty: !colourOf('spoken', 'background') }" @change="recolour('spoken', 'background', $event)" />{{ t('short.itsGround') }}</label>
      <button v-if="colourOf('spoken', 'background')" type="button" class="link" @click="clear('spoken', 'background')">{{ t('short.noGround') }}</button>
    </div>
    <label class="dial"><span>{{ t('short.larger') }}</span><input v-model.lazy.number="larger" type="number" min="50" max="200" step="5" class="time" /> %</label>
    <label class="dial"><span>{{ t('short.pale') }}</span><input v-model.lazy.number="pale" type="number" min="0" max="100" step="5" class="time" /> %</label>
    <WordLetters :look="style.spoken" :title="t('short.letter.spoken')" state="spoken" @change="(part, value) => reletter('spoken', part, value)" />
    <div class="dial"><span>{{ t('short.weight') }} <KeyCap command="word-weight" /></span><ChoiceRow v-model="colours" :label="t('short.weight')" :options="colourChoices" /></div>
    <label v-if="colours !== '0'" class="dial">
      <span>{{ t('short.howMany') }}</span>
      <input type="range" min="0" max="50" step="1" :value="share" data-share @change="share = Number(($event.target as HTMLInputElement).value)" />
      <b class="time" data-weighty>{{ t('short.weighty', { n: short.state?.weighty ?? 0, all: short.state?.words ?? 0 }) }}</b>
    </label>
    <div v-if="colours !== '0'" class="dial colours">
      <label><input type="color" :value="colourOf('emphasis', 'colour') || style.colour || '#FFFFFF'" :class="{ empty: !colourOf('emphasis', 'colour') }" @change="recolour('emphasis', 'colour', $event)" />{{ t('short.ofWeight') }}</label>
      <label v-if="colours === '2'"><input type="color" :value="colourOf('emphasis_2', 'colour') || style.colour || '#FFFFFF'" :class="{ empty: !colourOf('emphasis_2', 'colour') }" @change="recolour('emphasis_2', 'colour', $event)" />{{ t('short.ofNames') }}</label>
    </div>
    <template v-if="colours !== '0'">
      <WordLetters :look="style.emphasis" :title="t('short.ofWeight')" state="emphasis" @change="(part, value) => reletter('emphasis', part, value)" />
      <WordLetters v-if="colours === '2'" :look="style.emphasis_2" :title="t('short.ofNames')" state="emphasis_2" @change="(part, value) => reletter('emphasis_2', part, value)" />
    </template>

    <p class="section-title">{{ t('short.seen') }} <button type="button" class="link" data-mask-toggle @click="emit('mask')">{{ t(masked ? 'short.hideMask' : 'short.showMask') }}</button> <KeyCap command="seen-mask" /></p>
    <div class="dial"><ChoiceRow v-model="roomChosen" :label="t('short.seen')" :options="rooms" /></div>
    <div class="dial edges">
      <label v-for="edge in EDGES" :key="edge">{{ t(`short.edge.${edge}`) }} <input type="number" min="0" max="45" class="time" :value="edgePercent(edge)" :data-edge="edge" @change="moveEdge(edge, $event)" /></label>
    </div>
    <TightOnes @fit="change('fit', {})" />
    <OpeningHeading />
    <KeepLook />
  </section>
</template>

<style scoped>
.dials {
  display: grid;
  gap: 7px;
  padding: 4px 14px 20px;
  font-size: 13px;
}
.section-title {
  margin: 8px 0 0;
}
.section-title small {
  float: right;
  font-weight: 400;
}
.colours label,
.edges label {
  display: inline-flex;
  align-items: center;
  gap: 5px;
}
.edges input {
  width: 44px !important;
}
.colours input {
  width: 24px;
  height: 20px;
  padding: 0;
  background: none;
  border: 1px solid var(--line);
  border-radius: 4px;
}
.colours input.empty {
  opacity: 0.35;
}
.example {
  margin: 0;
  padding: 4px 8px;
  font-family: var(--time-font);
  font-size: 12.5px;
  background: var(--paper);
  border-left: 3px solid var(--tide);
}
</style>
