<script setup lang="ts">
/** What is not stored, and what cannot be taken back: said above the work, with what can be done about it. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

import { asSentence } from '@/kit/i18n'
import { useHistory } from '@/session/historyStore'
import { person } from '@/session/identity'
import { usePeople } from '@/session/people'
import { problemOfAll, waitingOfAll } from '@/session/storedEdits'
import { useTracks } from '@/session/tracksStore'
import { useSelection } from '@/score/selectionStore'
import NoticeLine from '@/kit/NoticeLine.vue'
import { useSaving } from '@/workspace/useSaving'
import { useTranscript } from '@/stages/transcribe/transcript/transcriptStore'

const { t } = useI18n()
const tracks = useTracks()
const transcript = useTranscript()
const history = useHistory()
const people = usePeople()
const selection = useSelection()

const saving = useSaving()
const waiting = computed(() => saving.value === 'waiting')
const count = computed(() => waitingOfAll.value + (transcript.saving === 'waiting' ? 1 : 0))
const why = computed(() => asSentence(problemOfAll.value || transcript.problem))

const inTheWay = computed(() => {
  if (!history.inTheWay) return ''
  const { actor } = history.inTheWay
  if (actor === person) return t('unsaved.ownInTheWay')
  return t('unsaved.inTheWay', { name: people.names.get(actor) ?? t('unsaved.somebody') })
})

function goThere() {
  const [caption] = history.inTheWay?.captions ?? []
  if (caption) selection.only(caption)
  history.inTheWay = null
}
</script>

<template>
  <div class="notices">
    <NoticeLine v-if="waiting" :text="t('unsaved.waiting', { why }, count)" data-unsaved />
    <NoticeLine v-for="{ track, entry } in tracks.left" :key="entry.words" :text="t('unsaved.refused', { ...entry })" data-refused>
      <v-btn size="small" color="primary" variant="flat" data-again @click="track.makeAgain(entry)">{{ t('unsaved.again') }}</v-btn>
      <v-btn size="small" variant="text" @click="track.giveUp(entry)">{{ t('unsaved.giveUp') }}</v-btn>
    </NoticeLine>
    <NoticeLine v-if="history.inTheWay" :text="inTheWay" data-in-the-way>
      <v-btn v-if="history.inTheWay.captions.length" size="small" color="primary" variant="flat" @click="goThere">{{ t('unsaved.goThere') }}</v-btn>
      <v-btn size="small" variant="text" @click="history.inTheWay = null">{{ t('keys.close') }}</v-btn>
    </NoticeLine>
  </div>
</template>

<style scoped>
.notices {
  flex: none;
  background: var(--paper);
}
</style>
