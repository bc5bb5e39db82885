<script setup lang="ts">
import { useStorage } from '@vueuse/core'
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watchEffect } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRouter } from 'vue-router'

import { answered, client, type EngineView } from '@/api/client'
import { usePlayer } from '@/player/playerStore'
import { useProject } from '@/project/projectStore'
import { useTrack } from '@/project/trackStore'
import JobLine from '@/shared/JobLine.vue'
import { useCommands } from '@/shared/commands'
import { DOUBTFUL } from '@/transcript/document'
import FindBar from '@/transcript/FindBar.vue'
import SpeakersPanel from '@/transcript/SpeakersPanel.vue'
import TextOut from '@/transcript/TextOut.vue'
import TranscriptPage from '@/transcript/TranscriptPage.vue'
import { useTranscript } from '@/transcript/transcriptStore'

const { t } = useI18n()
const router = useRouter()
const project = useProject()
const track = useTrack()
const player = usePlayer()

const engines = shallowRef<EngineView[]>([])
const engine = ref('')
const language = ref(project.project?.tracks[0]?.language ?? 'en')
const problem = ref('')
const transcript = useTranscript()
const finding = ref(false)
/** By how much the playhead steps back when the film is paused to write. */
const backMs = useStorage('dunlin.back-on-pause', 500)
/** The place under the film is there once the workspace is. */
const placed = ref(false)

const hearing = computed(() => project.latest('recognise'))
const active = computed(() => hearing.value?.state === 'running' || hearing.value?.state === 'waiting')
const chosen = computed(() => engines.value.find((candidate) => candidate.name === engine.value))
const models = computed(() =>
  (chosen.value?.models ?? [])
    .map((model) => `${model.name} (${model.languages.length ? model.languages.join(', ') : t('transcribe.manyLanguages')})`)
    .join(', '),
)
const doubtful = computed(() => project.words.filter((word) => word.confidence < DOUBTFUL).length)
watchEffect(() => (player.backOnPauseMs = backMs.value || 0))
onBeforeUnmount(() => (player.backOnPauseMs = 0))
useCommands([{ id: 'find', keys: ['Ctrl+F'], textKeys: ['Ctrl+F'], run: () => (finding.value = true), enabled: () => project.words.length > 0 }])

onMounted(async () => {
  placed.value = true
  engines.value = await answered(client.GET('/api/engines'))
  engine.value = engines.value[0]?.name ?? ''
})

/** Words that were put right by hand are not replaced by one press. */
const sure = ref(false)

async function recognise() {
  if (project.words.length && !sure.value) {
    sure.value = true
    return
  }
  sure.value = false
  problem.value = ''
  try {
    if (language.value !== project.project!.tracks[0]!.language) await project.change({ language: language.value })
    await project.recognise(engine.value, language.value)
  } catch (error) {
    problem.value = (error as Error).message
  }
}

async function makeCaptions() {
  await transcript.send()
  await track.captionsFromWords()
  await router.push({ name: 'time' })
}
</script>

<template>
  <div class="transcribe">
    <header class="bar">
      <template v-if="project.project?.film.has_sound">
        <v-select
          v-model="engine"
          class="engine"
          :items="engines"
          item-title="title"
          item-value="name"
          :label="t('transcribe.engine')"
          :disabled="active"
        />
        <v-text-field v-model="language" class="language" :label="t('transcribe.language')" :disabled="active" />
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
      </template>
      <span class="figures soft">
        <template v-if="project.words.length">
          {{ t('transcribe.words', project.words.length) }} · {{ t('transcribe.doubtful', doubtful) }}
        </template>
      </span>
      <v-btn
        v-if="project.words.length"
        color="primary"
        variant="flat"
        :disabled="active"
        data-make-captions
        @click="makeCaptions"
      >
        {{ track.captions.length ? t('transcribe.makeAgain') : t('transcribe.make') }}
      </v-btn>
    </header>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <div v-if="hearing && hearing.state !== 'done'" class="progress"><JobLine :job="hearing" /></div>

    <FindBar v-if="finding" @close="finding = false" />
    <TranscriptPage v-if="project.words.length" :hearing="active" />
    <div v-else-if="!active" class="none">
      <template v-if="project.project?.film.has_sound">
        <h2>{{ t('transcribe.none.title') }}</h2>
        <p>{{ t('transcribe.none.body') }}</p>
        <p v-if="engines.length" class="soft">{{ t('transcribe.models', { models }) }}</p>
        <p v-else class="soft">{{ t('transcribe.noEngine') }}</p>
        <v-btn :to="{ name: 'bring-in' }">{{ t('transcribe.bringIn') }}</v-btn>
      </template>
      <template v-else>
        <h2>{{ t('transcribe.silent.title') }}</h2>
        <p>{{ t('transcribe.silent.body') }}</p>
        <v-btn color="primary" :to="{ name: 'time' }">{{ t('transcribe.silent.toTime') }}</v-btn>
      </template>
    </div>
    <Teleport v-if="placed && project.words.length" to="#beside">
      <SpeakersPanel />
      <TextOut />
      <label class="back soft">
        {{ t('transcribe.backOnPause') }}
        <input v-model.number="backMs" type="number" min="0" max="10000" step="100" class="time" /> ms
      </label>
    </Teleport>
  </div>
</template>

<style scoped>
.transcribe {
  display: flex;
  flex-direction: column;
  height: 100%;
}
.bar {
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 10px 16px;
  border-bottom: 1px solid var(--line);
}
.engine {
  flex: 0 0 146px;
}
.language {
  flex: 0 0 108px;
}
.figures {
  margin-left: auto;
  font-size: 13px;
  text-align: right;
  line-height: 1.25;
}
.problem {
  margin: 12px 18px 0;
  color: var(--heather);
}
.progress {
  padding: 12px 18px;
  border-bottom: 1px solid var(--line);
}
.back {
  display: block;
  padding: 0 16px 14px;
  font-size: 12.5px;
}
.back input {
  width: 72px;
  padding: 3px 6px;
  font-size: 12.5px;
  color: var(--ink);
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 4px;
}
.none {
  max-width: 460px;
  padding: 60px 40px;
}
.none h2 {
  margin: 0 0 8px;
  font-size: 20px;
}
</style>
