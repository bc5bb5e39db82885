<script setup lang="ts">
/** A film as viewers see it, with the words they choose, as they like to read them; and its languages, for who keeps it. */
import { computed, onMounted, onUnmounted, ref, shallowRef, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRoute } from 'vue-router'

import { ask, type Film, languageName, runs } from '@/host/ask'
import FilmLanguages from '@/host/FilmLanguages.vue'
import ReadingDials from '@/host/ReadingDials.vue'
import { useReading } from '@/host/reading'

const props = defineProps<{ id: string }>()
const { t } = useI18n()
const route = useRoute()
const reading = useReading()
const film = shallowRef<Film | null>(null)
const problem = ref('')
/** The language whose draft the address of this page opens. */
const proof = computed(() => (typeof route.query.proof === 'string' && route.query.proof ? { language: String(route.query.language ?? ''), key: route.query.proof } : null))
const language = ref<string | null>(null)

const shownTracks = computed(() => (film.value?.tracks ?? []).filter((track) => track.is_open || track.language === proof.value?.language))
async function read() {
  try {
    film.value = await ask<Film>('GET', `films/${props.id}`)
    document.title = `${film.value.title} · ${t('name')}`
    problem.value = ''
  } catch (error) {
    problem.value = error instanceof TypeError ? t('gone') : (error as Error).message
  }
}
onMounted(async () => {
  await read()
  language.value = proof.value?.language ?? shownTracks.value.find((track) => !track.by_machine)?.language ?? shownTracks.value[0]?.language ?? null
})
// What the host writes by itself comes when it is done.
let timer = 0
watch(
  () => film.value?.machine,
  (state) => {
    window.clearInterval(timer)
    if (state === 'making') timer = window.setInterval(() => void read(), 2000)
  },
)
onUnmounted(() => window.clearInterval(timer))

const video = ref<HTMLVideoElement | null>(null)
const playing = ref(false)
const at = ref(0)
const seconds = ref(0)
const chosen = computed(() => shownTracks.value.find((track) => track.language === language.value))
const address = computed(() => {
  const track = chosen.value
  if (!track) return null
  const key = proof.value?.language === track.language ? `&proof=${encodeURIComponent(proof.value.key)}` : ''
  return `/watch/films/${props.id}/tracks/${track.language}?v=${track.version}${key}`
})
const cues = shallowRef<VTTCue[]>([])
const active = shallowRef<VTTCue[]>([])
/** The browser reads the track; the page draws it, as viewers like it. */
function taken(event: Event) {
  const { track } = event.target as HTMLTrackElement
  cues.value = [...(track.cues ?? [])] as VTTCue[]
  show(track)
  track.oncuechange = () => show(track)
}
function show(track: TextTrack) {
  active.value = [...(track.activeCues ?? [])] as VTTCue[]
}
watch(address, () => {
  cues.value = []
  active.value = []
})
function hide(element: unknown) {
  if (element instanceof HTMLTrackElement) element.track.mode = 'hidden'
}
/** Words of a cue without what only tells how they look. */
const wordsOf = (cue: VTTCue) => cue.getCueAsHTML().textContent ?? ''
/** Where a cue stands of itself: a line given in per cent, or as a line of the picture counted from its top. */
function placeOf(cue: VTTCue): Record<string, string> {
  if (cue.line === 'auto' || typeof cue.line !== 'number') return { bottom: '6%' }
  if (cue.snapToLines) return cue.line >= 0 ? { top: `${5 + cue.line * 5}%` } : { bottom: `${1 - cue.line * 5}%` }
  return { top: `${Math.min(cue.line, 88)}%` }
}
const play = () => (video.value?.paused ? video.value.play() : video.value?.pause())
const goTo = (time: number) => {
  if (video.value) video.value.currentTime = time
}
function nextLanguage() {
  const tags = [null, ...shownTracks.value.map((track) => track.language)]
  language.value = tags[(tags.indexOf(language.value) + 1) % tags.length] ?? null
}
/** The language that was read before the words were turned off. */
let before: string | null = null
function wordsOnOff() {
  if (language.value) before = language.value
  language.value = language.value ? null : (before ?? shownTracks.value[0]?.language ?? null)
}
function pressed(event: KeyboardEvent) {
  const field = (event.target as HTMLElement).closest('input:not([type=range]), select, button, a')
  if (event.ctrlKey || event.altKey || event.metaKey || (field && event.key === ' ') || field?.matches('input, select')) return
  const deeds: Record<string, () => void> = { ' ': () => void play(), w: wordsOnOff, n: nextLanguage, '+': reading.larger, '-': reading.smaller }
  const deed = deeds[event.key.toLowerCase()]
  if (!deed) return
  event.preventDefault()
  deed()
}
onMounted(() => window.addEventListener('keydown', pressed))
onUnmounted(() => window.removeEventListener('keydown', pressed))
</script>

<template>
  <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
  <article v-else-if="film">
    <h1>{{ film.title }}</h1>
    <p class="soft">{{ film.about }}</p>
    <p v-if="proof" class="proof">{{ t('film.proof') }}</p>
    <div class="hall">
      <div class="seen">
        <div class="picture" :class="{ below: reading.place.value === 'below' }">
          <video
            ref="video"
            :src="`/watch/films/${id}/file`"
            preload="metadata"
            @click="play"
            @play="playing = true"
            @pause="playing = false"
            @timeupdate="at = video?.currentTime ?? 0"
            @loadedmetadata="seconds = video?.duration ?? 0"
          >
            <track v-if="address" :key="address" :ref="hide" kind="subtitles" :src="address" :srclang="language ?? ''" @load="taken">
          </video>
          <div class="words" :lang="language ?? undefined" data-words>
            <p v-for="(cue, n) in active" :key="n" :style="[reading.style.value, reading.place.value === 'own' ? placeOf(cue) : {}]" :class="reading.ground.value" dir="auto"><span>{{ wordsOf(cue) }}</span></p>
          </div>
        </div>
        <div class="transport">
          <button type="button" data-play @click="play">{{ playing ? t('film.pause') : t('film.play') }}</button>
          <input type="range" min="0" :max="seconds" step="0.1" :value="at" :aria-label="t('film.at')" @input="goTo(Number(($event.target as HTMLInputElement).value))">
          <span class="figures">{{ runs(at * 1000) }} / {{ runs(seconds * 1000) }}</span>
        </div>
        <p class="soft keys">{{ t('film.keys') }}</p>
      </div>
      <aside>
        <fieldset>
          <legend>{{ t('film.words') }}</legend>
          <label><input v-model="language" type="radio" name="words" :value="null"> {{ t('film.noWords') }}</label>
          <label v-for="track in shownTracks" :key="track.language" :data-language="track.language">
            <input v-model="language" type="radio" name="words" :value="track.language"> {{ languageName(track.language) }}
            <small v-if="track.by_machine" class="soft">{{ t('film.machine') }}</small>
            <small v-if="!track.is_open" class="wrong">{{ t('film.draft') }}</small>
          </label>
        </fieldset>
        <ReadingDials />
      </aside>
    </div>
    <section v-if="cues.length" class="script" :aria-label="t('film.script')">
      <h2>{{ t('film.script') }}</h2>
      <p :lang="language ?? undefined" dir="auto">
        <template v-for="(cue, n) in cues" :key="n"><a :href="`#${n}`" :class="{ now: active.includes(cue) }" @click.prevent="goTo(cue.startTime)">{{ wordsOf(cue) }}</a>{{ ' ' }}</template>
      </p>
    </section>
    <p v-else-if="!shownTracks.length" class="soft">{{ t('film.nothing') }}</p>
    <FilmLanguages :film="film" @changed="read" />
  </article>
</template>

<style scoped>
.proof {
  display: inline-block;
  padding: 2px 10px;
  color: var(--shell);
  background: var(--lamp);
}
.hall {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 250px;
  gap: 28px;
  margin-bottom: 26px;
}
.picture {
  position: relative;
  background: var(--deep);
  container-type: inline-size;
}
video {
  display: block;
  width: 100%;
  max-height: 62vh;
}
.words p {
  position: absolute;
  right: 4%;
  left: 4%;
  margin: 0;
  text-align: center;
  white-space: pre-line;
  pointer-events: none;
}
.words p span {
  padding: 0.06em 0.34em;
  box-decoration-break: clone;
}
.bare span {
  color: #fff;
  text-shadow: 0 0 3px #000, 0 1px 3px #000, 0 0 6px #000;
}
.shade span {
  color: #fff;
  background: rgb(0 0 0 / 72%);
}
.paper span {
  color: #10211f;
  background: #f6f4ea;
}
.below .words {
  min-height: 96px;
  padding: 10px 4%;
}
.below .words p {
  position: static;
}
.transport {
  display: grid;
  grid-template-columns: 92px 1fr auto;
  gap: 14px;
  align-items: center;
  margin: 10px 0 4px;
}
input[type='range'] {
  width: 100%;
  accent-color: var(--kelp);
}
.keys {
  font-size: 13px;
}
aside {
  display: grid;
  gap: 18px;
  align-content: start;
}
fieldset {
  display: grid;
  min-width: 0;
  gap: 3px;
  margin: 0;
  padding: 0;
  border: 0;
}
legend {
  padding: 0 0 6px;
  font: 600 17px var(--slab);
}
.script {
  margin-bottom: 28px;
}
.script p {
  max-width: 78ch;
  max-height: 180px;
  overflow: auto;
  font-size: 17px;
}
.script a {
  color: inherit;
  text-decoration: none;
}
.script a:hover {
  text-decoration: underline;
}
.script .now {
  background: #ffe2a8;
}
@media (width < 900px) {
  .hall {
    grid-template-columns: 1fr;
  }
}
</style>
