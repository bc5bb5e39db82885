<script setup lang="ts">
/** A caption file before it is taken in: what it is read as, what was odd, and how it comes out. */
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRouter } from 'vue-router'

import { answered, client, fileBody, named, type Schemas } from '@/api/client'
import { captionFormats } from '@/api/fileKinds'
import { inWords, languageName } from '@/kit/i18n'
import { useBringIn } from '@/stages/bring-in/bringInStore'
import { useProject } from '@/session/projectStore'
import { newId, useTrack } from '@/session/tracksStore'
import { goTo } from '@/router'
import { useRetime } from '@/stages/time/retimeStore'
import { keysWaitFor } from '@/kit/commands/commands'
import BesideFilm from '@/kit/BesideFilm.vue'
import RawText from '@/kit/RawText.vue'
import StyledText from '@/kit/StyledText.vue'
import { RATES, seconds, shortClock } from '@/kit/time'

const { t } = useI18n()
const router = useRouter()
const project = useProject()
const track = useTrack()
const bringIn = useBringIn()
const retime = useRetime()

const formats = shallowRef<Schemas['FormatInfoView'][]>([])
const picker = ref<HTMLInputElement | null>(null)
const where = ref<'here' | 'new'>('here')
const language = ref(project.trackInfo?.language ?? 'en')

const reading = computed(() => bringIn.reading)
const replaced = computed(() => track.captions.length)

onMounted(async () => {
  // A file may have been chosen where there was nothing yet to read it into.
  if (bringIn.file && !reading.value) void bringIn.read()
  formats.value = await captionFormats()
})
watch(reading, (now) => {
  // What is known of its region is not lost to a guess that knows none.
  const own = project.trackInfo?.language ?? ''
  if (now?.language && now.language !== own.split('-')[0]) language.value = now.language
})

function picked(event: Event) {
  const input = event.target as HTMLInputElement
  const files = [...(input.files ?? [])]
  input.value = ''
  if (!files.length) return
  bringIn.choose(files)
  void bringIn.read()
}
/** By how much the sound says a file is off, before it is worth telling. */
const OFF_MS = 150
function offsets({ offsets_ms, drifts }: Schemas['AgreementView']) {
  const far = offsets_ms.filter((ms) => Math.abs(ms) > OFF_MS)
  if (drifts) return t('bringIn.drifts')
  if (offsets_ms.length > 1) return t('bringIn.breaks', offsets_ms.length - 1)
  if (!far.length) return t('bringIn.inPlace')
  return t(far[0]! < 0 ? 'bringIn.late' : 'bringIn.early', { by: seconds(Math.abs(far[0]!), 1) })
}
async function take() {
  try {
    if (where.value === 'new') await project.addTrack(language.value)
    else if (language.value !== project.trackInfo?.language) await project.changeTrack({ language: language.value })
  } catch (refused) {
    bringIn.problem = (refused as Error).message
    return
  }
  const { agreement } = bringIn
  if (!(await bringIn.take())) return
  await goTo('time')
  // Its place in the sound is known to be another: it is shown, and taken by who wants it.
  if (agreement?.sure && (agreement.drifts || agreement.offsets_ms.some((ms) => Math.abs(ms) > OFF_MS))) await retime.fromSound()
}

/** The file as it is. */
const raw = shallowRef<ArrayBuffer | null>(null)
watch(() => bringIn.file, () => (raw.value = null))
async function showRaw() {
  raw.value = raw.value ? null : ((await bringIn.file?.arrayBuffer()) ?? null)
}

/** Timelines of editing programs cut the film, too. */
const isTimeline = computed(() => /\.(otio|edl)$/i.test(bringIn.file?.name ?? ''))
const cuts = ref<number | null>(null)
watch(() => bringIn.file, () => (cuts.value = null))
async function takeCuts() {
  const params = { path: { project_id: project.project!.id } }
  bringIn.problem = ''
  try {
    const taking = answered(client.POST('/api/projects/{project_id}/shots-file', { params, ...named(newId()), ...fileBody(bringIn.file!) }))
    await keysWaitFor(taking)
    cuts.value = (await taking).shots.length
    await project.refresh()
  } catch (refused) {
    bringIn.problem = (refused as Error).message
  }
}
</script>

<template>
  <div class="bring-in">
    <header>
      <h1>{{ bringIn.file ? bringIn.file.name : t('bringIn.title') }}</h1>
      <v-btn size="small" data-pick @click="picker?.click()">{{ bringIn.file ? t('bringIn.other') : t('bringIn.pick') }}</v-btn>
      <v-btn v-if="isTimeline && project.hasFilm" size="small" data-take-cuts @click="takeCuts">{{ t('bringIn.takeCuts') }}</v-btn>
      <input ref="picker" type="file" multiple class="visually-hidden" tabindex="-1" data-captions-file :aria-label="t('bringIn.pick')" @change="picked">
    </header>
    <p v-if="cuts !== null" role="status" data-cuts-taken>{{ t('bringIn.cutsTaken', cuts) }}</p>
    <p v-if="bringIn.problem" class="problem" role="alert">{{ bringIn.problem }}</p>
    <div v-if="!bringIn.file" class="none">
      <p>{{ t('bringIn.body') }}</p>
      <p class="soft">{{ formats.map((format) => `${format.title} ${format.endings[0]}`).join(' · ') }}</p>
    </div>
    <template v-else>
      <section v-if="bringIn.candidates.length" class="candidates" :aria-label="t('bringIn.candidates')">
        <p class="section-title">{{ t('bringIn.candidates') }} <span class="soft">{{ bringIn.listened ? '' : t('bringIn.notListened') }}</span></p>
        <button
          v-for="one in bringIn.candidates"
          :key="one.file.name"
          type="button"
          :aria-pressed="one.file === bringIn.file"
          :data-candidate="one.file.name"
          @click="bringIn.look(one.file)"
        >
          <span class="file">{{ one.file.name }}</span>
          <span class="bar" aria-hidden="true"><i :style="{ width: `${(one.agreement?.in_place ?? 0) * (one.agreement?.sure ?? 0)}%` }" /></span>
          <span v-if="one.agreement?.sure" class="soft">{{ t('bringIn.agrees', { percent: Math.round(one.agreement.in_place) }) }}, {{ offsets(one.agreement) }}</span>
          <span v-else-if="one.agreement" class="soft">{{ t('bringIn.agreesNot') }}</span>
          <span v-else class="soft">{{ one.problem || (bringIn.listened ? t('bringIn.comparing') : '') }}</span>
        </button>
      </section>
      <div class="dials">
        <label>
          <span>{{ t('bringIn.format') }}</span>
          <select :value="bringIn.how.format ?? reading?.format ?? ''" data-format-choice @change="bringIn.again({ format: ($event.target as HTMLSelectElement).value })">
            <option v-for="format in formats" :key="format.name" :value="format.name">{{ format.title }}</option>
          </select>
        </label>
        <label v-if="reading?.encoding || bringIn.how.encoding">
          <span>{{ t('bringIn.encoding') }}</span>
          <select :value="bringIn.how.encoding ?? reading?.encoding ?? ''" data-encoding @change="bringIn.again({ encoding: ($event.target as HTMLSelectElement).value })">
            <option v-if="reading?.encoding && !reading.encodings.includes(reading.encoding)" :value="reading.encoding">{{ reading.encoding }}</option>
            <option v-for="encoding in reading?.encodings ?? []" :key="encoding" :value="encoding">{{ encoding }}</option>
          </select>
        </label>
        <label v-if="reading?.counts_frames">
          <span>{{ t('bringIn.fps') }}</span>
          <select :value="bringIn.how.fps ?? ''" @change="bringIn.again({ fps: ($event.target as HTMLSelectElement).value || undefined })">
            <option value="">{{ t('bringIn.filmRate') }}</option>
            <option v-for="rate in RATES" :key="rate" :value="rate">{{ rate }}</option>
          </select>
        </label>
        <label v-if="reading">
          <span>{{ t('transcribe.language') }}: {{ languageName(language) }}</span>
          <input v-model="language" class="language" :title="t('top.languageHint')" data-file-language>
        </label>
      </div>
      <div v-if="reading" class="two">
        <section class="preview" :aria-label="t('bringIn.preview')">
          <p class="section-title">
            {{ t('bringIn.count', reading.caption_count) }} · {{ t('bringIn.until', { end: shortClock(reading.ends_ms) }) }}
          </p>
          <p v-if="project.isPastEnd(reading.ends_ms)" class="past" data-past-end>
            {{ t('bringIn.pastEnd', { by: seconds(reading.ends_ms - project.durationMs, 1) }) }}
          </p>
          <ol tabindex="0">
            <li v-for="(caption, index) in reading.captions" :key="index">
              <span class="time">{{ shortClock(caption.in_ms) }}<br>{{ shortClock(caption.out_ms) }}</span>
              <span class="said" dir="auto" :lang="language"><b v-if="caption.speaker">{{ caption.speaker }}</b><StyledText :spans="caption.spans" /></span>
            </li>
            <li v-if="reading.caption_count > reading.captions.length" class="soft more">
              {{ t('check.more', reading.caption_count - reading.captions.length) }}
            </li>
          </ol>
        </section>
        <section class="odd" :aria-label="t('bringIn.oddities')">
          <p class="section-title" :class="{ some: reading.oddity_count }">{{ t('bringIn.oddCount', reading.oddity_count) }}</p>
          <ul tabindex="0">
            <li v-for="(oddity, index) in reading.oddities" :key="index">
              <span class="time">{{ t('bringIn.line', { line: oddity.line }) }}</span><span>{{ inWords(oddity.message) }}</span>
            </li>
            <li v-if="reading.oddity_count > reading.oddities.length" class="soft more">
              {{ t('check.more', reading.oddity_count - reading.oddities.length) }}
            </li>
          </ul>
          <p v-if="!reading.oddity_count" class="clean">{{ t('bringIn.clean') }}</p>
        </section>
      </div>
      <p v-else-if="bringIn.busy" class="soft">{{ t('bringIn.reading') }}</p>
      <footer v-if="reading">
        <label v-if="replaced"><input v-model="where" type="radio" value="here"> {{ t('bringIn.here', replaced) }}</label>
        <label v-if="replaced"><input v-model="where" type="radio" value="new"> {{ t('bringIn.asNew') }}</label>
        <v-btn color="primary" variant="flat" :disabled="bringIn.busy || !reading.caption_count" data-take-in @click="take">
          {{ t('bringIn.take', reading.caption_count) }}
        </v-btn>
        <v-btn data-raw @click="showRaw">{{ t('bringIn.raw') }}</v-btn>
        <v-btn @click="(bringIn.forget(), router.back())">{{ t('bringIn.leave') }}</v-btn>
      </footer>
    </template>
    <BesideFilm v-if="raw && reading">
      <RawText :title="bringIn.file?.name ?? ''" :bytes="raw" :encoding="reading.encoding" @close="raw = null" />
    </BesideFilm>
  </div>
</template>

<style scoped>
.past {
  margin: 0 0 6px;
  font-size: 13px;
  color: var(--heather);
}
.bring-in {
  display: flex;
  flex-direction: column;
  gap: 10px;
  height: 100%;
  padding: 14px 20px 12px;
}
header,
footer {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px;
}
h1 {
  margin: 0;
  font-size: 18px;
  overflow-wrap: anywhere;
}
.problem {
  margin: 0;
  color: var(--heather);
}
.none {
  max-width: 560px;
}
.dials {
  display: flex;
  flex-wrap: wrap;
  gap: 14px;
}
.dials label {
  display: grid;
  gap: 3px;
  font-size: 12px;
  color: var(--soft);
}
select,
.language {
  font: 14px var(--text-font);
  color: var(--ink);
  padding: 4px 8px;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 6px;
}
.language {
  width: 70px;
}
.candidates {
  display: grid;
  flex: none;
  max-height: 30%;
  overflow-y: auto;
}
.candidates button {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 90px minmax(0, 1.2fr);
  align-items: center;
  gap: 12px;
  padding: 5px 10px;
  font-size: 13px;
  text-align: left;
  border: 1px solid transparent;
  border-radius: 6px;
}
.candidates button[aria-pressed='true'] {
  background: var(--paper);
  border-color: var(--russet);
}
.file {
  overflow-wrap: anywhere;
}
.bar {
  height: 6px;
  background: var(--sand-deep);
  border-radius: 3px;
  overflow: hidden;
}
.bar i {
  display: block;
  height: 100%;
  background: var(--tide);
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 1.25fr) minmax(0, 1fr);
  gap: 16px;
  flex: 1;
  min-height: 0;
}
.two section {
  display: flex;
  flex-direction: column;
  min-height: 0;
}
.section-title {
  padding-bottom: 6px;
}
ol,
ul {
  flex: 0 1 auto;
  margin: 0;
  padding: 0;
  overflow-y: auto;
  list-style: none;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 6px;
}
.two li {
  display: grid;
  grid-template-columns: 84px 1fr;
  gap: 10px;
  padding: 6px 12px;
  border-top: 1px solid var(--line);
}
.two li:first-child {
  border-top: 0;
}
.two li.more {
  display: block;
}
.two .time {
  font-size: 12px;
  color: var(--soft);
}
.odd li {
  grid-template-columns: 66px 1fr;
  font-size: 13px;
}
.said {
  white-space: pre-line;
  overflow-wrap: anywhere;
}
.said b {
  display: block;
  font-size: 12px;
  color: var(--russet);
}
.section-title.some {
  color: var(--straw);
}
.odd ul:empty {
  display: none;
}
.clean {
  margin: 0;
  color: var(--reed);
}
footer {
  padding-top: 4px;
}
footer label {
  display: flex;
  align-items: center;
  gap: 6px;
}
</style>
