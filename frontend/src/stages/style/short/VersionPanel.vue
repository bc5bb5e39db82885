<script setup lang="ts">
/** The pictures that the captions are made for: the film's own, and versions of it with a window and colours of their own. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

import ChoiceRow from '@/kit/ChoiceRow.vue'
import { keysWaitFor, useCommands } from '@/kit/commands/commands'
import KeyCap from '@/kit/commands/KeyCap.vue'
import { shortClock } from '@/kit/time'
import { usePlayer } from '@/picture/playerStore'
import { useProject } from '@/session/projectStore'
import { useVersions, type Version } from '@/session/versionsStore'
import { useVersionWindow } from '@/stages/style/short/useVersionWindow'
import { useStyles } from '@/styling/stylesStore'

const SHAPES = ['9:16', '4:5', '1:1', '16:9', 'film'] as const
const GRADES = ['filmed', 'flat-calm', 'bright', 'printed', 'dusk'] as const
const UNCHANGED = { exposure: 0, contrast: 0, warmth: 0, grade: 'filmed' } as const
/** A hundredth of the picture a press, or a tenth. */
const [STEP, FAR] = [0.01, 0.1]

const { t } = useI18n()
const project = useProject()
const player = usePlayer()
const styles = useStyles()
const versions = useVersions()
const { version, moments, current, place, room, canMove, change, move, setMoment, toggleGlide, removeMoment, goTo } = useVersionWindow()

const isUpright = computed(() => (project.project?.film.height ?? 0) > (project.project?.film.width ?? 0))
function add() {
  const shape = isUpright.value ? '1:1' : '9:16'
  void keysWaitFor(versions.add({ name: versions.freeName(t(isUpright.value ? 'version.square' : 'version.upright')), shape } as Version))
}
function next() {
  const ids = [null, ...versions.versions.map(({ id }) => id)]
  versions.shownId = ids[(ids.indexOf(versions.shownId) + 1) % ids.length]!
}

const own = <K extends keyof Version>(name: K, usual: NonNullable<Version[K]>) =>
  computed({ get: () => (version.value?.[name] ?? usual) as NonNullable<Version[K]>, set: (now) => void change({ [name]: now }, name) })
const name = own('name', '')
const shape = computed({ get: () => (version.value?.shape ?? 'film') as string, set: (now) => void change({ shape: now === 'film' ? null : now }, 'shape') })
const shapes = computed(() => SHAPES.map((value) => ({ value: value as string, title: value === 'film' ? t('version.asFilm') : value })))
const way = computed({ get: () => (version.value?.whole ? 'whole' : 'window'), set: (now) => void change({ whole: now === 'whole' }, 'whole') })
const ways = computed(() => (['window', 'whole'] as const).map((value) => ({ value, title: t(`version.way.${value}`) })))
const style = computed({ get: () => version.value?.style ?? '', set: (now) => void change({ style: now || null }, 'style') })

type Colours = Version['colours']
const colours = computed(() => version.value?.colours ?? UNCHANGED)
const recolour = (now: Partial<Colours>, what: string) => void change({ colours: { ...colours.value, ...now } }, what)
const DIALS = [
  { dial: 'exposure', most: 2, step: 0.1 },
  { dial: 'contrast', most: 1, step: 0.05 },
  { dial: 'warmth', most: 1, step: 0.05 },
] as const
const signed = (value: number) => (value > 0 ? `+${value}` : String(value)).replace('-', '−')
const grade = computed({ get: () => colours.value.grade, set: (now) => recolour({ grade: now }, 'grade') })

const percent = (part: number) => `${Math.round(part * 100)} %`
const slide = (side: 'x' | 'y', event: Event) => move({ [side]: Number((event.target as HTMLInputElement).value) / 100 - place.value[side] })

const there = () => version.value !== undefined
const movable = () => canMove.value
const onMoment = () => canMove.value && current.value >= 0
useCommands([
  { id: 'version-new', run: add },
  { id: 'version-next', run: next, enabled: () => versions.versions.length > 0, why: 'version' },
  { id: 'version-remove', run: () => versions.shownId && void keysWaitFor(versions.remove(versions.shownId)), enabled: there, why: 'version' },
  { id: 'window-left', run: () => move({ x: -STEP }), enabled: movable, why: 'window' },
  { id: 'window-right', run: () => move({ x: STEP }), enabled: movable, why: 'window' },
  { id: 'window-far-left', run: () => move({ x: -FAR }), enabled: movable, why: 'window' },
  { id: 'window-far-right', run: () => move({ x: FAR }), enabled: movable, why: 'window' },
  { id: 'window-up', run: () => move({ y: -STEP }), enabled: () => room.value.down, why: 'window' },
  { id: 'window-down', run: () => move({ y: STEP }), enabled: () => room.value.down, why: 'window' },
  { id: 'window-moment', run: setMoment, enabled: movable, why: 'window' },
  { id: 'window-glide', run: toggleGlide, enabled: onMoment, why: 'window' },
  { id: 'window-forget', run: removeMoment, enabled: onMoment, why: 'window' },
  { id: 'moment-before', run: () => goTo(-1), enabled: onMoment, why: 'window' },
  { id: 'moment-next', run: () => goTo(1), enabled: movable, why: 'window' },
])
</script>

<template>
  <p class="section-title">{{ t('version.title') }} <KeyCap v-if="versions.versions.length" command="version-next" /></p>
  <div class="pictures" role="radiogroup" :aria-label="t('version.title')">
    <button type="button" role="radio" :aria-checked="!version" :class="{ chosen: !version }" data-version="film" @click="versions.shownId = null">{{ t('version.film') }}</button>
    <button v-for="one in versions.versions" :key="one.id" type="button" role="radio" :aria-checked="one.id === versions.shownId" :class="{ chosen: one.id === versions.shownId }" :data-version="one.version.name" @click="versions.shownId = one.id">
      {{ one.version.name }}
    </button>
    <button type="button" class="link" data-version-new @click="add">{{ t('version.new') }}</button> <KeyCap command="version-new" />
  </div>
  <div v-if="version" class="version" data-version-panel>
    <label class="dial"><span>{{ t('version.name') }}</span><input v-model.lazy="name" type="text" maxlength="100" data-version-name></label>
    <div class="dial"><span>{{ t('version.shape') }}</span><ChoiceRow v-model="shape" :label="t('version.shape')" :options="shapes" /></div>
    <div v-if="version.shape" class="dial"><ChoiceRow v-model="way" :label="t('version.wayLabel')" :options="ways" /></div>
    <template v-if="canMove">
      <label v-if="room.across" class="dial">
        <span>{{ t('version.across') }} <KeyCap command="window-left" /> <KeyCap command="window-right" /></span>
        <input type="range" min="0" max="100" step="1" :value="Math.round(place.x * 100)" :aria-valuetext="percent(place.x)" data-window-across @input="slide('x', $event)">
        <b class="time">{{ percent(place.x) }}</b>
      </label>
      <label v-if="room.down" class="dial">
        <span>{{ t('version.down') }} <KeyCap command="window-up" /> <KeyCap command="window-down" /></span>
        <input type="range" min="0" max="100" step="1" :value="Math.round(place.y * 100)" :aria-valuetext="percent(place.y)" @input="slide('y', $event)">
        <b class="time">{{ percent(place.y) }}</b>
      </label>
      <p class="soft acts">
        <button type="button" class="link" data-window-moment @click="setMoment">{{ t('version.moment') }}</button> <KeyCap command="window-moment" />
        <template v-if="current >= 0">
          <button v-if="current > 0" type="button" class="link" data-window-glide @click="toggleGlide">{{ t(moments[current]?.comes === 'glide' ? 'version.doCut' : 'version.doGlide') }}</button> <KeyCap v-if="current > 0" command="window-glide" />
          <button type="button" class="link" @click="removeMoment">{{ t('version.forget') }}</button> <KeyCap command="window-forget" />
        </template>
      </p>
      <ol v-if="moments.length" class="moments" :aria-label="t('version.moments')">
        <li v-for="(moment, n) in moments" :key="moment.at_ms">
          <button type="button" :class="{ chosen: n === current }" :aria-current="n === current ? 'true' : undefined" :data-moment="moment.at_ms" @click="player.place(moment.at_ms)">
            <span class="time">{{ shortClock(moment.at_ms) }}</span> {{ n === 0 ? t('version.begins') : t(`version.comes.${moment.comes ?? 'cut'}`) }}<span class="time at">{{ percent(moment.x ?? 0.5) }}</span>
          </button>
        </li>
      </ol>
    </template>
    <details>
    <summary>{{ t('version.colours') }}</summary>
    <label v-for="{ dial, most, step } in DIALS" :key="dial" class="dial">
      <span>{{ t(`version.${dial}`) }}</span>
      <input type="range" :min="-most" :max="most" :step="step" :value="colours[dial]" :data-colours="dial" @input="recolour({ [dial]: Number(($event.target as HTMLInputElement).value) }, dial)">
      <b class="time">{{ signed(colours[dial]) }}</b>
    </label>
    <label class="dial"><span>{{ t('version.grade') }}</span><select v-model="grade" data-grade><option v-for="one in GRADES" :key="one" :value="one">{{ t(`version.grades.${one}`) }}</option></select></label>
    </details>
    <label class="dial"><span>{{ t('version.style') }}</span><select v-model="style" data-version-style><option value="">{{ t('version.asTrack') }}</option><option v-for="one in styles.styles" :key="one.name" :value="one.name">{{ one.name }}</option></select></label>
    <p class="acts"><button type="button" class="link" data-version-remove @click="versions.remove(versions.shownId!)">{{ t('version.remove') }}</button> <KeyCap command="version-remove" /></p>
  </div>
</template>

<style scoped>
.section-title {
  margin: 8px 0 0;
}
.pictures,
.acts {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px 12px;
  margin: 0;
}
.pictures > button:not(.link) {
  padding: 3px 0;
  color: var(--soft);
  border-bottom: 2px solid transparent;
}
.pictures > button.chosen {
  font-weight: 600;
  color: var(--ink);
  border-bottom-color: var(--russet);
}
.version {
  display: grid;
  gap: 6px;
  padding: 8px 10px;
  background: var(--paper);
  border-left: 3px solid var(--tide);
}
summary {
  color: var(--soft);
}
details[open] > .dial {
  margin-top: 6px;
}
.moments {
  display: grid;
  max-height: 132px;
  margin: 0;
  padding: 0;
  overflow: auto;
  list-style: none;
}
.moments button {
  display: flex;
  gap: 10px;
  width: 100%;
  padding: 2px 6px;
  text-align: left;
}
.moments button.chosen {
  background: var(--sand-deep);
  outline: 1px solid var(--line);
}
.moments .at {
  margin-left: auto;
}
</style>
