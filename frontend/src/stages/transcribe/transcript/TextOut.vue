<script setup lang="ts">
/** The transcript as a file, for those who only read it; and one of these brought back in. */
import { useStorage } from '@vueuse/core'
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'

import { answered, client, fileBody } from '@/api/client'
import { useProject } from '@/session/projectStore'
import ChoiceRow from '@/kit/ChoiceRow.vue'
import { useTranscript } from '@/stages/transcribe/transcript/transcriptStore'

const KINDS = ['html', 'docx', 'txt'] as const

const { t } = useI18n()
const project = useProject()
const transcript = useTranscript()
const holds = useStorage('dunlin.transcript-out', { times: true, speakers: true })
const kind = useStorage<(typeof KINDS)[number]>('dunlin.transcript-kind', 'html')
const kinds = computed(() => KINDS.map((value) => ({ value, title: t(`out.kind.${value}`) })))
const picker = ref<HTMLInputElement | null>(null)
const problem = ref('')

async function save() {
  // What was just written is in it too.
  await transcript.send()
  const link = document.createElement('a')
  const { times, speakers } = holds.value
  link.href = `/api/projects/${project.project!.id}/transcript?format=${kind.value}&times=${times}&speakers=${speakers}`
  link.click()
}

async function bringBack(event: Event) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  problem.value = ''
  try {
    await transcript.send()
    await answered(
      client.POST('/api/projects/{project_id}/transcript', {
        params: { path: { project_id: project.project!.id } },
        ...fileBody(file),
      }),
    )
    await Promise.all([project.loadWords(true), project.refresh()])
  } catch (refused) {
    problem.value = (refused as Error).message
  }
}
</script>

<template>
  <section class="out">
    <p class="section-title">{{ t('out.title') }}</p>
    <ChoiceRow v-model="kind" :label="t('out.title')" :options="kinds" />
    <p v-if="kind !== 'html'" class="line">
      <label><input v-model="holds.times" type="checkbox" /> {{ t('transcribe.withTimes') }}</label>
      <label><input v-model="holds.speakers" type="checkbox" /> {{ t('transcribe.withSpeakers') }}</label>
    </p>
    <p v-else class="soft line">{{ t('out.html') }}</p>
    <p class="line">
      <v-btn size="small" :disabled="!project.words.length" data-save-transcript @click="save">{{ t('out.save') }}</v-btn>
      <v-btn size="small" variant="text" data-bring-back @click="picker?.click()">{{ t('out.back') }}</v-btn>
      <input ref="picker" type="file" accept=".html" class="visually-hidden" tabindex="-1" data-transcript-file :aria-label="t('out.back')" @change="bringBack">
    </p>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
  </section>
</template>

<style scoped>
.out {
  display: grid;
  gap: 8px;
  padding: 12px 16px 14px;
  font-size: 12.5px;
}
.section-title,
.line,
.problem {
  margin: 0;
}
.line {
  display: flex;
  align-items: center;
  gap: 16px;
}
.problem {
  color: var(--heather);
}
</style>
