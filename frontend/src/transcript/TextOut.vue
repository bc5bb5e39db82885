<script setup lang="ts">
/** The transcript as plain text, for those who only read it. */
import { useStorage } from '@vueuse/core'
import { useI18n } from 'vue-i18n'

import { useProject } from '@/project/projectStore'
import { useTranscript } from '@/transcript/transcriptStore'

const { t } = useI18n()
const project = useProject()
const transcript = useTranscript()
const holds = useStorage('dunlin.transcript-out', { times: true, speakers: true })

async function save() {
  // What was just written is in it too.
  await transcript.send()
  const link = document.createElement('a')
  const { times, speakers } = holds.value
  link.href = `/api/projects/${project.project!.id}/transcript?times=${times}&speakers=${speakers}`
  link.click()
}
</script>

<template>
  <section class="out">
    <v-btn size="small" data-save-transcript @click="save">{{ t('transcribe.saveText') }}</v-btn>
    <label><input v-model="holds.times" type="checkbox" /> {{ t('transcribe.withTimes') }}</label>
    <label><input v-model="holds.speakers" type="checkbox" /> {{ t('transcribe.withSpeakers') }}</label>
  </section>
</template>

<style scoped>
.out {
  display: flex;
  align-items: center;
  gap: 16px;
  padding: 10px 16px 14px;
  font-size: 12.5px;
}
</style>
