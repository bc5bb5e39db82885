<script setup lang="ts">
/** A first guess of who speaks, heard from the voices; nothing is changed before it is taken. */
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'

import { answered, client } from '@/api/client'
import { useProject } from '@/session/projectStore'
import JobLine from '@/kit/JobLine.vue'
import { useCommands } from '@/kit/commands/commands'
import { useTranscriptJob } from '@/stages/transcribe/transcript/transcriptJob'
import { useTranscript } from '@/stages/transcribe/transcript/transcriptStore'
import KeyCap from '@/kit/commands/KeyCap.vue'

const emit = defineEmits<{ named: [names: string[]] }>()

interface Guessed {
  revision: number
  names: (string | null)[]
  passages: { first: number; count: number; voice: number; sure: number }[]
}

/** Below it, a passage is worth hearing. */
const DOUBTFUL = 0.4

const { t } = useI18n()
const project = useProject()
const transcript = useTranscript()
/** The guess that was taken, or put away. */
const ended = ref('')
let heard = -1

const { job, active: listening, problem, ask: listen } = useTranscriptJob('guess-speakers', () =>
  answered(client.POST('/api/projects/{project_id}/transcript/voices', { params: { path: { project_id: project.project!.id } } })),
)
const guess = computed(() => {
  const found = job.value?.state === 'done' && job.value.id !== ended.value ? (job.value.result as unknown as Guessed) : null
  return found?.revision === project.wordsRevision ? found : null
})
const passages = computed(() => guess.value?.passages ?? [])
const voices = computed(() => new Set(passages.value.map(({ voice }) => voice)).size)
const sure = computed(() => passages.value.reduce((sum, { sure, count }) => sum + sure * count, 0) / Math.max(project.words.length, 1))
const doubtful = computed(() => passages.value.filter(({ sure }) => sure < DOUBTFUL))

function hear() {
  heard = (heard + 1) % doubtful.value.length
  const { first, count } = doubtful.value[heard]!
  transcript.goToWords(first, count)
}

/** A voice that is nobody's yet gets a new speaker. */
function take() {
  const taken = new Set((project.project?.speakers ?? []).map(({ name }) => name))
  let n = 0
  const names = guess.value!.names.map((name) => {
    if (name) return name
    let free = ''
    do free = t('transcribe.speaker', { n: ++n })
    while (taken.has(free))
    return free
  })
  emit('named', [...new Set(names)])
  transcript.assignWords(passages.value.map(({ first, count, voice }) => ({ first, count, speaker: names[voice]! })))
  ended.value = job.value!.id
}

useCommands([
  { id: 'voices-listen', run: () => void listen(), enabled: () => !listening.value && !guess.value },
  { id: 'voices-take', run: take, enabled: () => guess.value !== null },
])
</script>

<template>
  <div class="voices">
    <JobLine v-if="job && (listening || job.state === 'failed')" :job="job" />
    <template v-if="guess">
      <p data-voices>{{ t('voices.heard', { n: voices, sure: Math.round(sure * 100) }, voices) }}</p>
      <p v-if="doubtful.length">
        <button type="button" data-voices-hear @click="hear">{{ t('voices.doubtful', doubtful.length) }}</button>
      </p>
      <p class="line">
        <v-btn size="small" color="primary" variant="flat" data-voices-take @click="take">{{ t('voices.take') }}</v-btn> <KeyCap command="voices-listen" />
        <v-btn size="small" variant="text" @click="ended = job!.id">{{ t('voices.leave') }}</v-btn>
      </p>
    </template>
    <p v-else-if="!listening" class="line">
      <button type="button" data-voices-listen @click="listen">{{ t('voices.listen') }}</button> <KeyCap command="voices-listen" />
    </p>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
  </div>
</template>

<style scoped src="@/kit/offer.css"></style>

<style scoped>
.voices {
  margin-top: 10px;
  font-size: 12.5px;
}
p {
  margin: 6px 0 0;
}
</style>
