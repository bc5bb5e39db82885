<script setup lang="ts">
/** From sound to words, and from words to captions: the transcript, and the other ways to write. */
import { useStorage } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, watchEffect } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRoute, useRouter } from 'vue-router'

import EarPage from '@/stages/transcribe/ear/EarPage.vue'
import MakePage from '@/stages/transcribe/making/MakePage.vue'
import { usePlayer } from '@/picture/playerStore'
import { useProject } from '@/session/projectStore'
import JobLine from '@/kit/JobLine.vue'
import { run, useCommands } from '@/kit/commands/commands'
import ChoiceRow from '@/kit/ChoiceRow.vue'
import { DOUBTFUL } from '@/stages/transcribe/transcript/transcriptDocument'
import FindBar from '@/stages/transcribe/transcript/FindBar.vue'
import FitWords from '@/stages/transcribe/transcript/FitWords.vue'
import HeardNotice from '@/stages/transcribe/transcript/HeardNotice.vue'
import LeftNotice from '@/stages/transcribe/transcript/LeftNotice.vue'
import RecognisePanel from '@/stages/transcribe/transcript/RecognisePanel.vue'
import SpeakersPanel from '@/stages/transcribe/transcript/SpeakersPanel.vue'
import StyleButtons from '@/stages/transcribe/transcript/StyleButtons.vue'
import TermsPanel from '@/stages/transcribe/transcript/TermsPanel.vue'
import TextOut from '@/stages/transcribe/transcript/TextOut.vue'
import TranscriptPage from '@/stages/transcribe/transcript/TranscriptPage.vue'
import WritingPage from '@/stages/transcribe/page/WritingPage.vue'
import BesideFilm from '@/kit/BesideFilm.vue'

const VIEWS = ['words', 'ear', 'make', 'page'] as const
type View = (typeof VIEWS)[number]

const { t } = useI18n()
const route = useRoute()
const router = useRouter()
const project = useProject()
const player = usePlayer()

const finding = ref(false)
/** By how much the playhead steps back when the film is paused to write. */
const backMs = useStorage('dunlin.back-on-pause', 500)
/** The place under the film is there once the workspace is. */

const view = computed<View>({
  get: () => VIEWS.find((one) => one === route.query.view) ?? 'words',
  set: (now) => void router.replace({ query: now === 'words' ? {} : { view: now } }),
})
const views = computed(() => VIEWS.map((value) => ({ value, title: t(`transcribe.view.${value}`) })))
const hearing = computed(() => project.latest('recognise'))
const active = computed(() => hearing.value?.state === 'running' || hearing.value?.state === 'waiting')
const doubtful = computed(() => project.words.filter((word) => word.confidence < DOUBTFUL).length)
watchEffect(() => (player.backOnPauseMs = view.value === 'words' ? backMs.value || 0 : 0))
onBeforeUnmount(() => (player.backOnPauseMs = 0))

const withWords = () => view.value === 'words' && project.words.length > 0
useCommands([
  { id: 'find', run: () => (finding.value = true), enabled: withWords },
  { id: 'view-words', run: () => (view.value = 'words') },
  { id: 'view-ear', run: () => (view.value = 'ear') },
  { id: 'view-make', run: () => (view.value = 'make') },
  { id: 'view-page', run: () => (view.value = 'page') },
])
</script>

<template>
  <div class="transcribe">
    <header class="bar">
      <ChoiceRow v-model="view" :label="t('transcribe.views')" :options="views" />
      <StyleButtons v-if="withWords()" />
      <span v-if="project.words.length" class="figures soft">
        {{ t('transcribe.words', project.words.length) }} · {{ t('transcribe.doubtful', doubtful) }}
      </span>
      <v-btn v-if="withWords()" color="primary" variant="flat" :disabled="active" data-make-captions @click="view = 'make'">
        {{ t('transcribe.make') }}
      </v-btn>
    </header>
    <div v-if="hearing && hearing.state !== 'done'" class="progress"><JobLine :job="hearing" /></div>
    <HeardNotice v-else-if="view === 'words'" :doubtful="doubtful" />
    <LeftNotice v-if="view === 'words'" />

    <MakePage v-if="view === 'make'" />
    <WritingPage v-else-if="view === 'page'" />
    <EarPage v-else-if="view === 'ear'" />
    <template v-else-if="project.words.length">
      <FindBar v-if="finding" @close="finding = false" />
      <TranscriptPage :hearing="active" />
    </template>
    <div v-else-if="!active" class="none">
      <template v-if="project.project?.film.has_sound">
        <h2>{{ t('transcribe.none.title') }}</h2>
        <p>{{ t('transcribe.none.body') }}</p>
        <RecognisePanel />
        <p class="other">
          <v-btn :to="{ name: 'script' }">{{ t('top.bringInScript') }}</v-btn>
          <v-btn :to="{ name: 'bring-in' }">{{ t('transcribe.bringIn') }}</v-btn>
        </p>
      </template>
      <template v-else-if="!project.hasFilm">
        <JobLine v-if="project.fetching" :job="project.fetching" />
        <template v-else>
          <h2>{{ t('film.none') }}</h2>
          <p>{{ t('transcribe.noFilm') }}</p>
        </template>
        <p class="other">
          <v-btn color="primary" variant="flat" @click="run('film')">{{ t('film.pick') }}</v-btn>
          <v-btn :to="{ name: 'script' }">{{ t('top.bringInScript') }}</v-btn>
          <v-btn :to="{ name: 'bring-in' }">{{ t('transcribe.bringIn') }}</v-btn>
        </p>
      </template>
      <template v-else>
        <h2>{{ t('transcribe.silent.title') }}</h2>
        <p>{{ t('transcribe.silent.body') }}</p>
        <v-btn color="primary" :to="{ name: 'time' }">{{ t('transcribe.silent.toTime') }}</v-btn>
      </template>
    </div>
    <BesideFilm v-if="withWords()">
      <FitWords v-if="project.project?.film.has_sound" />
      <SpeakersPanel />
      <TermsPanel />
      <TextOut />
      <RecognisePanel v-if="project.project?.film.has_sound" class="again" />
      <label class="back soft">
        {{ t('transcribe.backOnPause') }}
        <input v-model.number="backMs" type="number" min="0" max="10000" step="100" class="time" /> ms
      </label>
    </BesideFilm>
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
  gap: 14px;
  min-height: 52px;
  padding: 6px 16px;
  border-bottom: 1px solid var(--line);
}
.bar > :nth-child(2) {
  margin-left: auto;
}
.figures {
  font-size: 13px;
  text-align: right;
  line-height: 1.25;
}
.progress {
  padding: 12px 18px;
  border-bottom: 1px solid var(--line);
}
.again {
  padding: 12px 16px 14px;
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
  max-width: 560px;
  padding: 60px 40px;
}
.none h2 {
  margin: 0 0 8px;
  font-size: 20px;
}
.other {
  display: flex;
  gap: 10px;
  margin-top: 18px;
}
</style>
