<script setup lang="ts">
/** What was heard is not what was listened for: nobody, another language, or hardly anything that is sure. */
import { useSessionStorage } from '@vueuse/core'
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'

import type { Schemas } from '@/api/client'
import { useProject } from '@/session/projectStore'
import { goTo } from '@/router'
import { languageName } from '@/kit/i18n'
import NoticeLine from '@/kit/NoticeLine.vue'

/** Of fewer words nothing is said. */
const LEAST_WORDS = 20
/** In speech that is understood a tenth is doubtful, in one that is not, half. */
const MOST_DOUBTFUL = 0.4

const props = defineProps<{ doubtful: number }>()

const { t } = useI18n()
const project = useProject()
const away = useSessionStorage('dunlin.heard.away', '')
const problem = ref('')

const job = computed(() => project.latest('recognise'))
const kind = computed(() => {
  if (job.value?.state !== 'done' || away.value === job.value.id) return null
  if (draft.value) return 'draft'
  if (!project.words.length && job.value.result?.words === 0) return 'nobody'
  if (languages.value.length > 1) return 'several'
  if (job.value.parameters.language === 'auto') return 'told'
  if (job.value.result?.spoken) return 'spoken'
  return project.words.length >= LEAST_WORDS && props.doubtful > project.words.length * MOST_DOUBTFUL ? 'doubtful' : null
})
/** The track that what was said was written down into in English. */
const draft = computed(() => project.project?.tracks.find(({ id }) => id === job.value?.result?.track))
const languages = computed(() => (job.value?.result?.languages ?? []) as string[])
const spoken = computed(() => String(job.value?.result?.spoken ?? ''))
const names = computed(() => ({
  language: languageName(String(job.value?.result?.language ?? 'en')),
  spoken: languageName(spoken.value),
  languages: languages.value.map(languageName).join(', '),
  percent: Math.round(Number(job.value?.result?.sure ?? 0) * 100),
}))

async function again() {
  problem.value = ''
  try {
    await project.change({ language: spoken.value })
    await project.recognise({ ...(job.value!.parameters as Schemas['RecogniseRequest']), language: spoken.value })
  } catch (refused) {
    problem.value = (refused as Error).message
  }
}

async function openDraft() {
  await project.openTrack(draft.value!.id)
  await goTo('time')
}
</script>

<template>
  <NoticeLine v-if="kind" :text="t(`transcribe.notice.${kind}`, names)" :problem="problem" :data-notice="kind">
    <v-btn v-if="kind === 'draft'" size="small" color="primary" variant="flat" data-open-draft @click="openDraft">{{ t('transcribe.notice.open') }}</v-btn>
    <v-btn v-if="kind === 'spoken'" size="small" color="primary" variant="flat" @click="again">{{ t('transcribe.notice.again', names) }}</v-btn>
    <v-btn size="small" variant="text" @click="away = job!.id">{{ t('transcribe.notice.leave') }}</v-btn>
  </NoticeLine>
</template>
