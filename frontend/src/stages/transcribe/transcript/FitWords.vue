<script setup lang="ts">
/** Words that were written by hand take their times from their neighbours, until they are fitted to the sound. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

import { answered, client } from '@/api/client'
import { useProject } from '@/session/projectStore'
import JobLine from '@/kit/JobLine.vue'
import { useCommands } from '@/kit/commands/commands'
import { useTranscriptJob } from '@/stages/transcribe/transcript/transcriptJob'
import KeyCap from '@/kit/commands/KeyCap.vue'

const { t } = useI18n()
const project = useProject()
const guessed = computed(() => project.words.filter((word) => word.guessed).length)
const { job, active: fitting, problem, ask: fit } = useTranscriptJob('fit-words', () =>
  answered(client.POST('/api/projects/{project_id}/transcript/fit', { params: { path: { project_id: project.project!.id } } })),
)

useCommands([{ id: 'words-fit', run: () => void fit(), enabled: () => guessed.value > 0 && !fitting.value }])
</script>

<template>
  <section v-if="guessed || fitting || problem" class="fit">
    <JobLine v-if="job && (fitting || job.state === 'failed')" :job="job" />
    <p v-if="guessed && !fitting">
      <v-btn size="small" data-fit-words @click="fit">{{ t('transcribe.fitWords', guessed) }}</v-btn> <KeyCap command="words-fit" />
    </p>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
  </section>
</template>

<style scoped>
.fit {
  padding: 10px 16px 4px;
}
p {
  display: flex;
  align-items: center;
  gap: 10px;
  margin: 0;
}
.problem {
  color: var(--heather);
}
</style>
