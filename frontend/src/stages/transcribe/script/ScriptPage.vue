<script setup lang="ts">
/** A client's script before it is taken in: who speaks, what is said, and the captions it gives. */
import { computed, onMounted, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRouter } from 'vue-router'

import { useScript } from '@/stages/transcribe/script/scriptStore'
import { useProject } from '@/session/projectStore'
import { useTrack } from '@/session/tracksStore'
import { goTo } from '@/router'
import StyledText from '@/kit/StyledText.vue'
import { useCommands } from '@/kit/commands/commands'
import { languageName } from '@/kit/i18n'
import { minutes } from '@/kit/time'
import ChoiceRow from '@/kit/ChoiceRow.vue'
import { useFit } from '@/stages/time/fitStore'
import { useTiming } from '@/stages/time/timingStore'

const { t } = useI18n()
const router = useRouter()
const project = useProject()
const track = useTrack()
const script = useScript()
const fit = useFit()
const timing = useTiming()

const picker = ref<HTMLInputElement | null>(null)
const ways = computed(() => (['lines', 'paragraphs'] as const).map((value) => ({ value, title: t(`script.by.${value}`) })))
const replaced = computed(() => track.captions.length)

const ownLanguage = computed(() => project.project?.tracks.find(({ id }) => id === track.id)?.language ?? '')

/** A script that is much shorter or longer than the film may be of another one. */
const FAR_LONGER = 1.3
const FAR_SHORTER = 0.2
const doubts = computed(() => {
  const reading = script.reading
  if (!reading) return []
  const length = { script: minutes(reading.spoken_ms), film: minutes(project.durationMs) }
  const part = reading.spoken_ms / Math.max(project.durationMs, 1)
  return [
    ...(reading.language ? [t('script.otherLanguage', { language: languageName(reading.language), track: languageName(ownLanguage.value) })] : []),
    ...(!project.hasFilm ? [] : part > FAR_LONGER ? [t('script.longer', length)] : part < FAR_SHORTER ? [t('script.shorter', length)] : []),
  ]
})

async function setLanguage(language: string) {
  await project.changeTrack({ language })
  void script.look()
}

watch([() => script.file, () => script.pasted, script.how], () => void script.look(), { deep: true })
// A file may have been chosen where there was nothing yet to read it into.
onMounted(() => void (script.file && !script.reading && script.look()))

function picked(event: Event) {
  const input = event.target as HTMLInputElement
  script.file = input.files?.[0] ?? null
  input.value = ''
}

async function take(fitted: boolean) {
  if (!script.reading?.caption_count || script.busy) return
  if (!(await script.take())) return
  await goTo('time')
  if (!fitted) return
  timing.open('fit')
  await fit.askForAll()
}

useCommands([{ id: 'script-take', run: () => void take(false) }])
</script>

<template>
  <div class="script">
    <header>
      <h1>{{ script.file ? script.file.name : t('script.title') }}</h1>
      <v-btn size="small" data-pick @click="picker?.click()">{{ t('script.pick') }}</v-btn>
      <v-btn v-if="script.file" size="small" variant="text" @click="script.forget()">{{ t('script.otherwise') }}</v-btn>
      <input ref="picker" type="file" accept=".txt,.docx,.rtf,.odt" class="visually-hidden" tabindex="-1" data-script-file :aria-label="t('script.pick')" @change="picked">
    </header>
    <p v-if="script.problem" class="problem" role="alert">{{ script.problem }}</p>
    <div class="two">
      <section class="source">
        <textarea v-if="!script.file" v-model="script.pasted" :placeholder="t('script.paste')" :aria-label="t('script.paste')" spellcheck="false" dir="auto" data-script-text />
        <div class="dials">
          <ChoiceRow v-model="script.how.by" :label="t('script.byLabel')" :options="ways" />
          <label><input v-model="script.how.names" type="checkbox"> {{ t('script.names') }}</label>
          <label><input v-model="script.how.descriptions" type="checkbox"> {{ t('script.descriptions') }}</label>
        </div>
        <div v-if="script.reading" class="who">
          <p class="section-title">{{ t('script.speakers', script.reading.speakers.length) }}</p>
          <ul>
            <li v-for="{ name, count } in script.reading.speakers" :key="name"><span>{{ name }}</span><span class="time">{{ count }}</span></li>
          </ul>
          <p class="soft">{{ t('script.described', script.reading.description_count) }}</p>
          <p v-if="doubts.length" class="doubts" data-doubts>
            <span v-for="doubt in doubts" :key="doubt">{{ doubt }}</span>
            <button v-if="script.reading.language" type="button" class="link" data-set-language @click="setLanguage(script.reading.language)">
              {{ t('script.setLanguage', { language: languageName(script.reading.language) }) }}
            </button>
          </p>
        </div>
      </section>
      <section class="preview" :aria-label="t('script.preview')">
        <p class="section-title">{{ script.reading ? t('script.gives', script.reading.caption_count) : t('script.preview') }}</p>
        <ol v-if="script.reading" tabindex="0">
          <li v-for="(caption, index) in script.reading.captions" :key="index">
            <span class="time">{{ index + 1 }}</span>
            <p dir="auto" :lang="ownLanguage"><b v-if="caption.speaker">{{ caption.speaker }}</b><StyledText :spans="caption.spans" /></p>
          </li>
          <li v-if="script.reading.caption_count > script.reading.captions.length" class="soft">
            <span /> {{ t('check.more', script.reading.caption_count - script.reading.captions.length) }}
          </li>
        </ol>
        <p v-else class="soft">{{ t('script.none') }}</p>
      </section>
    </div>
    <footer v-if="script.reading">
      <span v-if="replaced" class="soft">{{ t('script.replaces', replaced) }}</span>
      <v-btn v-if="project.project?.film.has_sound" color="primary" variant="flat" :disabled="script.busy" data-take-fitted @click="take(true)">{{ t('script.takeFitted') }}</v-btn>
      <v-btn :disabled="script.busy" data-take-script @click="take(false)">{{ t('script.take') }}</v-btn>
      <v-btn variant="text" @click="(script.forget(), router.back())">{{ t('bringIn.leave') }}</v-btn>
    </footer>
  </div>
</template>

<style scoped>
.script {
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
.doubts {
  display: grid;
  gap: 4px;
  justify-items: start;
  margin: 10px 0 0;
  padding: 8px 10px;
  font-size: 13px;
  border: 1px solid var(--straw);
  border-radius: 6px;
}
.link {
  color: var(--tide);
}
.problem {
  margin: 0;
  color: var(--heather);
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.15fr);
  gap: 18px;
  flex: 1;
  min-height: 0;
}
.two section {
  display: flex;
  flex-direction: column;
  gap: 10px;
  min-height: 0;
}
textarea {
  flex: 1;
  min-height: 120px;
  padding: 10px 12px;
  font: 15px/1.45 var(--text-font);
  color: var(--ink);
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 6px;
  resize: none;
}
.dials {
  display: grid;
  gap: 6px;
  font-size: 13px;
}
.dials label {
  display: flex;
  align-items: center;
  gap: 8px;
}
.section-title,
.who p {
  margin: 0;
}
.who {
  font-size: 13px;
}
ul,
ol {
  margin: 0;
  padding: 0;
  list-style: none;
}
.who ul {
  max-height: 120px;
  margin: 6px 0;
  overflow-y: auto;
}
.who li {
  display: flex;
  justify-content: space-between;
  max-width: 260px;
  padding: 1px 0;
}
ol {
  overflow-y: auto;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 6px;
}
ol li {
  display: grid;
  grid-template-columns: 34px 1fr;
  padding: 7px 12px;
  border-top: 1px solid var(--line);
}
ol li:first-child {
  border-top: 0;
}
ol .time {
  padding-top: 2px;
  font-size: 12px;
  color: var(--soft);
}
ol p {
  margin: 0;
  white-space: pre-line;
  overflow-wrap: anywhere;
}
b {
  display: block;
  font-size: 12px;
  color: var(--russet);
}
</style>
