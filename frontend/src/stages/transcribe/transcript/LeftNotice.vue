<script setup lang="ts">
/** Words that were refused, as when another window wrote in the same place: to be put in again, or not. */
import { useI18n } from 'vue-i18n'

import NoticeLine from '@/kit/NoticeLine.vue'
import { useTranscript } from '@/stages/transcribe/transcript/transcriptStore'

const { t } = useI18n()
const transcript = useTranscript()
</script>

<template>
  <NoticeLine v-if="transcript.left.words" :text="t('transcribe.left.said', transcript.left)" data-left>
    <v-btn size="small" color="primary" variant="flat" data-put-left @mousedown.prevent @click="transcript.putLeft()">
      {{ t('transcribe.left.put') }}
    </v-btn>
    <v-btn size="small" variant="text" @click="transcript.leave()">{{ t('transcribe.left.leave') }}</v-btn>
  </NoticeLine>
</template>
