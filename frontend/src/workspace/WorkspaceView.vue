<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, watch, watchEffect } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRoute } from 'vue-router'

import FilmView from '@/picture/FilmView.vue'
import TransportBar from '@/picture/TransportBar.vue'
import { usePlayer } from '@/picture/playerStore'
import { useProject } from '@/session/projectStore'
import { useHistory, type View } from '@/session/historyStore'
import { useTrack } from '@/session/tracksStore'
import { goTo, STAGES } from '@/router'
import { useSelection } from '@/score/selectionStore'
import { useTiming } from '@/stages/time/timingStore'
import { ownerOf } from '@/kit/commands/keys'
import { dispatch, letGo, useCommands } from '@/kit/commands/commands'
import CaptionMeters from '@/workspace/CaptionMeters.vue'
import CaptionFind from '@/workspace/CaptionFind.vue'
import KeySheet from '@/workspace/keys/KeySheet.vue'
import StageRail from '@/workspace/StageRail.vue'
import StatusLine from '@/workspace/StatusLine.vue'
import TopBar from '@/workspace/TopBar.vue'
import { asSentence } from '@/kit/i18n'
import UnsavedNotices from '@/workspace/UnsavedNotices.vue'
import { useCaptionCommands } from '@/workspace/useCaptionCommands'
import ChoicePanel from '@/styling/ChoicePanel.vue'
import { useStyling } from '@/styling/stylingStore'
import { useSaving } from '@/workspace/useSaving'
import { useStylingCommands } from '@/styling/useStylingCommands'
import FilmPanel from '@/workspace/film/FilmPanel.vue'
import { useFilm } from '@/workspace/film/filmStore'
import { useFilesIn } from '@/workspace/useFilesIn'
import { useFilmWidth } from '@/workspace/useFilmWidth'
import { useTitle } from '@/workspace/useNotice'
import { useTransportCommands } from '@/workspace/useTransportCommands'

const props = defineProps<{ projectId: string }>()

const { t } = useI18n()
const route = useRoute()
const project = useProject()
const track = useTrack()
const history = useHistory()
const player = usePlayer()
const selection = useSelection()
const timing = useTiming()
const saving = useSaving()
const keySheet = ref(false)
const finding = ref(false)
/** Where captions are in view; the transcript looks for its words itself. */
const finds = () => ['time', 'style', 'translate', 'check', 'deliver'].includes(String(route.name)) || (route.name === 'transcribe' && route.query.view === 'page')
/** Where the picture is worked on it takes the most room, and the stage and what belongs to it stand beside. */
const picturesFirst = computed(() => route.name === 'style')
/** Where captions are one text, that text takes as much as it is wide. */
const wordsBeside = computed(() => picturesFirst.value && route.query.view === 'short')
const styling = useStyling()
const film = useFilmWidth()
const filmPanel = useFilm()
const bringInFiles = useFilesIn()

watch(
  () => props.projectId,
  (id) => {
    player.reset()
    selection.only(null)
    void project.open(id)
  },
  { immediate: true },
)
onBeforeUnmount(() => {
  player.reset()
  project.close()
})

// Undo is about what is seen: where the transcript is, about its words, and about a spec where that is.
const VIEWS: Record<string, View> = {
  spec: 'specs', transcribe: 'transcript', 'transcribe-page': 'captions', 'transcribe-make': 'captions', time: 'captions', check: 'captions',
  style: 'looks', 'style-short': 'looks', translate: 'translation', deliver: 'packing',
}
watchEffect(() => {
  const place = route.query.view ? `${String(route.name)}-${String(route.query.view)}` : String(route.name)
  history.view = VIEWS[place] ?? 'none'
})

useTitle()
useTransportCommands()
useStylingCommands()
useCaptionCommands()
useCommands([
  { id: 'find', run: () => (finding.value = true), enabled: () => finds() && track.captions.length > 0, why: 'captions' },
  { id: 'bring-in', run: () => void goTo('bring-in') },
  { id: 'film', run: () => (filmPanel.open = !filmPanel.open) },
  { id: 'keys', run: () => (keySheet.value = !keySheet.value) },
  { id: 'sheet-close', run: () => (keySheet.value = false), enabled: () => keySheet.value },
  { id: 'film-larger', run: () => film.resize(1) },
  { id: 'film-smaller', run: () => film.resize(-1) },
  ...STAGES.map((stage) => ({
    id: `stage-${stage}` as const,
    run: () => void goTo(stage),
  })),
])

useEventListener(window, 'dragover', (event) => event.preventDefault())
useEventListener(window, 'drop', (event) => {
  event.preventDefault()
  if (project.project) void bringInFiles([...(event.dataTransfer?.files ?? [])])
})
// What happened meanwhile was not heard of by a page that was kept.
useEventListener(window, 'pageshow', (event) => event.persisted && location.reload())
useEventListener(window, 'keydown', dispatch)
// A click with the mouse presses a control; the keys stay with the stage.
useEventListener(window, 'click', async ({ detail }) => {
  if (detail === 0) return
  // A label gives its control the focus once the click is over.
  await new Promise((over) => setTimeout(over))
  const control = document.activeElement as HTMLElement | null
  if (control && ['button', 'checkbox'].includes(ownerOf(control)) && !control.closest('.v-overlay')) control.blur()
}, { capture: true })
useEventListener(window, 'keyup', letGo)
// Closing the tab while an edit is on its way would lose it.
useEventListener(window, 'beforeunload', (event) => {
  if (saving.value !== 'saved') event.preventDefault()
})
</script>

<template>
  <div v-if="project.missing" class="missing">
    <h1>{{ t('workspace.missing') }}</h1>
    <p>{{ asSentence(project.missing.message) }}</p>
    <a v-if="project.missing.damaged" :href="`/api/projects/${route.params.projectId}/rescue`" download data-rescue>{{ t('projects.rescue') }}</a>
    <v-btn color="primary" :to="{ name: 'projects' }">{{ t('workspace.toProjects') }}</v-btn>
  </div>
  <div v-else class="workspace" :class="{ 'picture-first': picturesFirst, 'words-beside': wordsBeside }" :style="{ '--beside': film.width.value }">
    <StageRail />
    <TopBar />
    <main class="stage">
      <UnsavedNotices />
      <router-view v-if="project.project" />
    </main>
    <section v-if="project.project" class="beside" :aria-label="t('workspace.film')">
      <div
        class="edge"
        role="separator"
        aria-orientation="vertical"
        tabindex="0"
        :aria-label="t('workspace.filmWidth')"
        :aria-valuenow="film.percent.value"
        aria-valuemin="20"
        aria-valuemax="60"
        data-film-width
        @pointerdown="film.dragged"
        @keydown.left.prevent.stop="film.resize(1)"
        @keydown.right.prevent.stop="film.resize(-1)"
      />
      <FilmView />
      <TransportBar />
      <div class="under">
        <FilmPanel v-if="filmPanel.open" />
        <CaptionFind v-if="finding && finds()" @close="finding = false" />
        <ChoicePanel v-if="styling.chooser" />
        <CaptionMeters v-else-if="!timing.panel && !picturesFirst && route.name !== 'transcribe' && route.name !== 'translate'" />
        <div id="beside" />
      </div>
      <KeySheet v-if="keySheet" @close="keySheet = false" />
    </section>
    <aside v-if="project.project && picturesFirst" id="panel" class="panel" />
    <StatusLine />
    <v-snackbar
      :model-value="Boolean(track.refusal)"
      location="bottom right"
      :timeout="6000"
      @update:model-value="track.refusal = ''"
    >
      <span role="alert">{{ track.refusal }}</span>
    </v-snackbar>
  </div>
</template>

<style scoped>
.workspace {
  height: 100vh;
  display: grid;
  grid-template: 48px minmax(0, 1fr) 30px / 72px minmax(0, 1fr) var(--beside);
}
.workspace.picture-first {
  grid-template-columns: 72px 208px minmax(0, 1fr) 316px;
}
.picture-first > .stage {
  grid-column: 2;
}
.picture-first > .beside {
  grid-column: 3;
}
.picture-first > .panel {
  grid-column: 4;
}
/* The stage is too narrow there for what has to be said. */
.picture-first :deep(.notices) {
  position: fixed;
  top: 48px;
  right: 0;
  left: 72px;
  z-index: 6;
}
.picture-first .edge {
  display: none;
}
.picture-first :deep(.film .frame) {
  width: auto;
  max-width: 100%;
  height: min(calc(100vh - 330px), calc((100vw - 596px) / var(--ratio)));
}
.workspace.words-beside {
  grid-template-columns: 72px minmax(240px, 0.9fr) minmax(0, 1fr) 352px;
}
.words-beside :deep(.film .frame) {
  height: min(calc(100vh - 136px), calc((100vw - 424px) * 0.52 / var(--ratio)));
}
.panel {
  min-height: 0;
  overflow: hidden;
  background: var(--sand);
  border-left: 1px solid var(--line);
}
@media (max-width: 1150px) {
  .workspace.picture-first {
    grid-template-columns: 72px 156px minmax(0, 1fr) 300px;
  }
  .picture-first :deep(.film .frame) {
    height: min(calc(100vh - 330px), calc((100vw - 528px) / var(--ratio)));
  }
}
.stage {
  position: relative;
  display: flex;
  flex-direction: column;
  min-width: 0;
  overflow: hidden;
}
.stage > :deep(:last-child) {
  flex: 1;
  min-height: 0;
}
.beside {
  position: relative;
  display: flex;
  flex-direction: column;
  min-height: 0;
  overflow: hidden;
  background: var(--paper);
  border-left: 1px solid var(--line);
}
.edge {
  position: absolute;
  inset: 0 auto 0 -3px;
  width: 7px;
  z-index: 5;
  cursor: ew-resize;
}
.edge:hover,
.edge:focus-visible {
  background: color-mix(in srgb, var(--tide) 40%, transparent);
  outline: 0;
}
.under {
  overflow-y: auto;
  flex: 1;
}
.missing {
  display: grid;
  place-content: center;
  justify-items: start;
  gap: 10px;
  height: 100vh;
}
.missing h1 {
  font-size: 22px;
  margin: 0;
}
</style>
