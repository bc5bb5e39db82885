<script setup lang="ts">
/** What hears the film's speech, and in which language. */
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import { answered, client, type EngineView } from '@/api/client'
import { useCommands } from '@/kit/commands/commands'
import KeyCap from '@/kit/commands/KeyCap.vue'
import { useProject } from '@/session/projectStore'
import { type Message, sentence } from '@/kit/i18n'
import { fileSize } from '@/kit/time'
import HearAgain from '@/stages/transcribe/transcript/HearAgain.vue'
import SoundChoice from '@/stages/transcribe/transcript/SoundChoice.vue'

const { t } = useI18n()
const project = useProject()

const engines = shallowRef<EngineView[]>([])
const listed = ref(false)
const engine = ref('')
const spoken = () => project.project?.tracks[0]?.language ?? 'en'
const language = ref(spoken())
// It was told by the sound, or chosen elsewhere.
watch(spoken, (now) => (language.value = now))
const problem = ref('')
/** Words that were put right by hand are not replaced by one press. */
const sure = ref(false)

const hearing = computed(() => project.latest('recognise'))
const active = computed(() => hearing.value?.state === 'running' || hearing.value?.state === 'waiting')
const chosen = computed(() => engines.value.find((candidate) => candidate.name === engine.value))
/** The first one for the language, unless another is chosen. */
const model = ref<string | null>(null)
const base = computed(() => language.value.split('-')[0]!.toLowerCase())
const models = computed(() => {
  const fit = (chosen.value?.models ?? []).filter(
    ({ languages, is_broken }) => !is_broken && (!languages.length || (!auto.value && languages.includes(base.value))),
  )
  return fit.map(({ name, languages, size_bytes, words_wrong, speed }) => ({
    value: name,
    title: [name, languages.length ? languages.join(', ') : t('transcribe.manyLanguages'), size_bytes && fileSize(size_bytes)].filter(Boolean).join(' · '),
    props: {
      subtitle: [
        words_wrong !== null && t('transcribe.wordsWrong', { wrong: words_wrong }),
        speed && t('transcribe.speed', { speed: Math.round(speed) }),
      ].filter(Boolean).join(' · '),
    },
  }))
})
/** How well and how fast the model hears that will be used. */
const howGood = computed(() => (models.value.find(({ value }) => value === model.value) ?? models.value.at(quick.value ? -1 : 0))?.props.subtitle)
const stream = ref(0)
const voiceFocus = ref(false)
/** The language is told by the sound, where a model here knows more than one. */
const auto = ref(false)
const quick = ref(false)
const spelledNumbers = ref(false)
const knowsMany = computed(() => (chosen.value?.models ?? []).some(({ languages, is_broken }) => !languages.length && !is_broken))
const broken = computed(() => (chosen.value?.models ?? []).filter(({ is_broken }) => is_broken))
const how = computed(() => ({ engine: engine.value, model: model.value, quick: quick.value, spelled_numbers: spelledNumbers.value, language: auto.value ? 'auto' : language.value, stream: stream.value, voice_focus: voiceFocus.value }))
// One that was chosen stays chosen as long as it fits; else the best is taken, or the quickest.
watch(models, (now) => (model.value = now.find(({ value }) => value === model.value)?.value ?? null))

async function list() {
  engines.value = await answered(client.GET('/api/engines'))
}
onMounted(async () => {
  await list()
  engine.value = engines.value[0]?.name ?? ''
  listed.value = true
})
// How fast a model is here is known once it has heard a film.
watch(() => hearing.value?.state, (state) => state === 'done' && void list())

/** What stands in the way of recognising, once the sound was listened to. */
const unfit = shallowRef<Message[]>([])
watch(
  () => project.latest('speech')?.state,
  async () => {
    const params = { path: { film_id: project.project!.film.id } }
    const { data } = await client.GET('/api/films/{film_id}/sound-fitness', { params })
    unfit.value = data?.told ?? []
  },
  { immediate: true },
)

async function recognise() {
  if (project.words.length && !sure.value) {
    sure.value = true
    return
  }
  sure.value = false
  problem.value = ''
  try {
    if (!auto.value && language.value !== project.project!.tracks[0]!.language) await project.change({ language: language.value })
    await project.recognise({ ...how.value, as_english: false })
  } catch (error) {
    problem.value = (error as Error).message
  }
}
// Words that are there are heard anew by the button alone, which asks first.
useCommands([{ id: 'recognise', run: () => void recognise(), enabled: () => !active.value && engine.value !== '' && !project.words.length, why: 'now' }])

/** What is said in other languages, in English: a track beside what there is. */
async function inEnglish() {
  problem.value = ''
  try {
    await project.recognise({ ...how.value, model: null, as_english: true })
  } catch (error) {
    problem.value = (error as Error).message
  }
}
</script>

<template>
  <section class="recognise">
    <p v-if="project.words.length" class="section-title">{{ t('transcribe.title') }}</p>
    <div class="line">
      <v-select v-model="engine" class="engine" :items="engines" item-title="title" item-value="name" :label="t('transcribe.engine')" :disabled="active" />
      <v-text-field v-model="language" class="language" :label="t('transcribe.language')" :disabled="active || auto" />
      <v-btn
        :color="project.words.length ? undefined : 'primary'"
        :variant="project.words.length ? 'outlined' : 'flat'"
        :disabled="active || !engine"
        data-recognise
        @click="recognise"
        @blur="sure = false"
      >
        {{ !project.words.length ? t('transcribe.recognise') : sure ? t('transcribe.replace') : t('transcribe.again') }}
      </v-btn>
      <KeyCap v-if="!project.words.length" command="recognise" in-text />
    </div>
    <div class="choices">
      <label v-if="knowsMany"><input v-model="auto" type="checkbox" :disabled="active" data-auto-language> {{ t('transcribe.auto') }}</label>
      <label><input v-model="quick" type="checkbox" :disabled="active" data-quick> {{ t('transcribe.quick') }}</label>
      <label><input v-model="spelledNumbers" type="checkbox" :disabled="active" data-spelled-numbers> {{ t('transcribe.spelledNumbers') }}</label>
    </div>
    <v-select
      v-if="models.length > 1" v-model="model" class="model" :items="models" :label="t('transcribe.model')" :placeholder="t(quick ? 'transcribe.quickest' : 'transcribe.best', { model: (quick ? models.at(-1) : models[0])!.title })"
      persistent-placeholder clearable :disabled="active" data-model
    />
    <p v-else-if="models.length" class="soft" data-model>{{ t('transcribe.models', { models: models[0]!.title }) }}</p>
    <p v-else-if="engines.length" class="soft" data-model>{{ t('transcribe.noModel', { engine: chosen?.title, language }) }}</p>
    <p v-else-if="listed" class="soft">{{ t('transcribe.noEngine') }}</p>
    <p v-if="howGood" class="soft" data-how-good>{{ howGood }}</p>
    <p v-for="one in broken" :key="one.name" class="soft">{{ t('transcribe.broken', { model: one.name }) }}</p>
    <SoundChoice v-model:stream="stream" v-model:voice-focus="voiceFocus" :disabled="active" />
    <ul v-if="unfit.length" class="unfit" data-unfit>
      <li v-for="note in unfit" :key="note.code">{{ sentence(note) }}</li>
    </ul>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <p v-if="knowsMany && (auto || base !== 'en')" class="english">
      <v-btn size="small" :disabled="active" data-as-english @click="inEnglish">{{ t('transcribe.inEnglish') }}</v-btn>
      <span class="soft">{{ t('transcribe.inEnglishWhat') }}</span>
    </p>
    <HearAgain v-if="project.words.length && !active" :how="how" />
  </section>
</template>

<style scoped>
.section-title {
  margin: 0 0 12px;
}
.line {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px;
}
.engine {
  flex: 1 0 140px;
  max-width: 180px;
}
.language {
  flex: 0 0 88px;
}
.model {
  margin-top: 10px;
}
.choices,
.english {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 14px;
  margin: 10px 0 0;
  font-size: 13px;
}
.unfit {
  margin: 10px 0 0;
  padding-left: 18px;
  font-size: 13px;
  color: var(--straw);
}
.problem {
  margin: 10px 0 0;
  color: var(--heather);
}
</style>
