<script setup lang="ts">
/** A part of the film heard again, beside what the transcript says there; nothing changes before it is taken. */
import { computed, nextTick, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import { answered, client, type Schemas, type Word } from '@/api/client'
import { useProject } from '@/session/projectStore'
import JobLine from '@/kit/JobLine.vue'
import { useCommands } from '@/kit/commands/commands'
import { useTranscriptJob } from '@/stages/transcribe/transcript/transcriptJob'
import { useTranscript } from '@/stages/transcribe/transcript/transcriptStore'
import KeyCap from '@/kit/commands/KeyCap.vue'

const props = defineProps<{ how: Omit<Schemas['RecogniseRequest'], 'as_english'> }>()

interface Heard {
  revision: number
  first: number
  count: number
  words: Word[]
  compared: [string, string][]
}

const { t } = useI18n()
const project = useProject()
const transcript = useTranscript()
/** The hearing that was taken, or put away. */
const ended = ref('')

const { job, active: listening, problem, ask: listen } = useTranscriptJob('hear-again', () => {
  const part = transcript.chosen()
  if (!part) throw new Error(t('hearAgain.nothing'))
  return answered(
    client.POST('/api/projects/{project_id}/transcript/hear', {
      params: { path: { project_id: project.project!.id } },
      body: { ...props.how, ...part, to_ms: Math.min(part.to_ms, project.durationMs) },
    }),
  )
})
const heard = computed(() => {
  const found = job.value?.state === 'done' && job.value.id !== ended.value ? (job.value.result as unknown as Heard) : null
  return found?.revision === project.wordsRevision ? found : null
})
const differs = computed(() => heard.value?.compared.some(([was, now]) => was !== now) ?? false)

const box = ref<HTMLElement | null>(null)
// Asked for by key, it is shown wherever the panel stands.
watch([listening, heard], async () => {
  await nextTick()
  box.value?.scrollIntoView({ block: 'nearest' })
})

function take() {
  const { first, count, words } = heard.value!
  transcript.putHeard(first, count, words)
  ended.value = job.value!.id
}

useCommands([
  { id: 'hear-again', run: () => void listen(), enabled: () => !listening.value && !heard.value },
  { id: 'hear-again-take', run: take, enabled: () => differs.value },
])
</script>

<template>
  <div ref="box" class="hear">
    <JobLine v-if="job && (listening || job.state === 'failed')" :job="job" />
    <template v-if="heard">
      <p v-if="!differs">{{ t('hearAgain.same') }}</p>
      <p v-else class="compared" data-compared>
        <template v-for="([was, now], i) in heard.compared" :key="i">
          <span v-if="was === now">{{ now }}</span>
          <template v-else><del v-if="was">{{ was }}</del> <ins v-if="now">{{ now }}</ins></template>
          {{ ' ' }}
        </template>
      </p>
      <p class="line">
        <template v-if="differs">
          <v-btn size="small" color="primary" variant="flat" data-take-heard @click="take">{{ t('hearAgain.take') }}</v-btn> <KeyCap command="hear-again-take" />
        </template>
        <v-btn size="small" variant="text" @click="ended = job!.id">{{ t('voices.leave') }}</v-btn>
      </p>
    </template>
    <p v-else-if="!listening" class="line">
      <button type="button" data-hear-again @mousedown.prevent @click="listen">{{ t('hearAgain.listen') }}</button> <KeyCap command="hear-again" />
    </p>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
  </div>
</template>

<style scoped src="@/kit/offer.css"></style>

<style scoped>
.hear {
  scroll-margin-block: 12px;
  font-size: 12.5px;
}
p {
  margin: 8px 0 0;
}
.compared {
  padding: 8px 10px;
  font-size: 14px;
  line-height: 1.45;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 6px;
}
del {
  color: var(--heather);
}
ins {
  color: var(--reed);
  text-decoration: underline 1px;
}
</style>
