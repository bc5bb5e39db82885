<script setup lang="ts">
/** Short form: the words as one text with its boundaries, the film, and beside it the looks with all that can be set of one. */
import { useDebounceFn } from '@vueuse/core'
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import { keysWaitFor, useCommands } from '@/kit/commands/commands'
import KeyCap from '@/kit/commands/KeyCap.vue'
import PlacedIn from '@/kit/PlacedIn.vue'
import { usePlayer } from '@/picture/playerStore'
import { useSelection } from '@/score/selectionStore'
import JobLine from '@/kit/JobLine.vue'
import { useProject } from '@/session/projectStore'
import { useTrack } from '@/session/tracksStore'
import { useVersions } from '@/session/versionsStore'
import RecognisePanel from '@/stages/transcribe/transcript/RecognisePanel.vue'
import EmojiBar from '@/stages/style/short/EmojiBar.vue'
import LookShelf from '@/stages/style/short/LookShelf.vue'
import SeenMask from '@/stages/style/short/SeenMask.vue'
import ShortPanel from '@/stages/style/short/ShortPanel.vue'
import { useShort } from '@/stages/style/short/shortStore'
import WindowHand from '@/stages/style/short/WindowHand.vue'
import { useWordCursor } from '@/stages/style/short/wordCursor'
import WordFlow from '@/stages/style/short/WordFlow.vue'
import ViewSwitch from '@/stages/style/ViewSwitch.vue'
import { useStyles } from '@/styling/stylesStore'

const { t } = useI18n()
const project = useProject()
const track = useTrack()
const player = usePlayer()
const selection = useSelection()
const styles = useStyles()
const short = useShort()
const versions = useVersions()
const cursor = useWordCursor()
const masked = ref(false)

onMounted(() => {
  selection.stopWriting()
  void Promise.all([styles.read(), short.readLooks(), short.read(), versions.read()])
})
// Other pages show the film's own picture.
onBeforeUnmount(() => (versions.shownId = null))
// Undo, another window, and what is done to styles elsewhere change what is in force.
// They come together: it is read once for all of them.
const readSoon = useDebounceFn(() => void short.read(), 40)
watch([() => track.captions, () => styles.styles], readSoon)

const looks = computed(() => short.looks.map(({ look }) => look))
function nextLook(by: 1 | -1) {
  const at = looks.value.findIndex(({ name }) => name === short.current?.name)
  const next = looks.value[(at < 0 && by < 0 ? 0 : at + by + looks.value.length) % looks.value.length]
  if (next) void short.apply(next)
}
function amount(by: 1 | -1) {
  const look = short.current
  if (!look) return
  const now = Math.min(Math.max((look.rhythm?.amount ?? 3) + by, 1), short.state!.examples.length)
  void short.apply({ ...look, rhythm: { by: 'amount', amount: now } })
}

const hearing = computed(() => project.latest('recognise'))
const isUpright = computed(() => (project.project?.film.height ?? 0) > (project.project?.film.width ?? 0))
// Of an upright film the words that were heard come in the look that such films begin with; all of that is one step of undo.
watch(
  [() => hearing.value?.state, () => short.state, () => short.looks, () => track.loaded],
  ([state, cut, looks, loaded]) => {
    const usual = looks.find((one) => one.default)?.look
    const begins = loaded && !track.captions.length && cut && !cut.look && cut.words > 0
    if (isUpright.value && begins && usual && !short.busy && state === 'done' && !track.canRedo) void short.apply(usual)
  },
)
// Words come while the page is open.
watch([() => project.words.length, () => hearing.value?.state], readSoon)

/** Short form in a track of its own: the captions there are stay what they are, as subtitles below. */
async function beside() {
  const usual = short.looks.find((one) => one.default)?.look
  if (!usual) return
  await track.settled()
  // Of what was heard the words are made; without that, of the captions.
  await project.addTrack(project.trackInfo?.language ?? 'en', t('short.begin.track'), project.project?.word_count ? null : track.id)
  await short.apply(usual)
}

const inOne = () => short.current !== undefined
const onWord = () => inOne() && cursor.word !== undefined && !player.playing
const word = (run: () => void) => ({ run, enabled: onWord, why: 'words' as const })
useCommands([
  { id: 'look-next', run: () => nextLook(1), enabled: () => looks.value.length > 0 && track.captions.length + (short.state?.words ?? 0) > 0, why: 'words' },
  { id: 'look-before', run: () => nextLook(-1), enabled: () => looks.value.length > 0 && (short.state?.words ?? 0) > 0, why: 'words' },
  { id: 'short-beside', run: () => void keysWaitFor(beside()), enabled: () => !inOne() && track.captions.length > 0 && looks.value.length > 0, why: 'captions' },
  { id: 'rhythm-more', run: () => amount(1), enabled: inOne, why: 'words' },
  { id: 'rhythm-less', run: () => amount(-1), enabled: inOne, why: 'words' },
  { id: 'word-next', run: () => cursor.go(1) },
  { id: 'word-before', run: () => cursor.go(-1) },
  { id: 'word-below', run: () => cursor.goLine(1) },
  { id: 'word-above', run: () => cursor.goLine(-1) },
  { id: 'word-carry-back', ...word(() => void cursor.deed('carry-back')) },
  { id: 'word-carry-on', ...word(() => void cursor.deed('carry-on')) },
  { id: 'word-break', ...word(() => void cursor.deed('break')) },
  { id: 'word-join', ...word(() => void cursor.deed('join')) },
  { id: 'word-leave-out', ...word(() => void cursor.deed('leave-out')) },
  { id: 'word-weight', ...word(() => void cursor.weigh()) },
  { id: 'word-write', ...word(() => cursor.write()) },
  { id: 'word-hear', ...word(() => cursor.hear()) },
  { id: 'seen-mask', run: () => (masked.value = !masked.value) },
])
</script>

<template>
  <div class="short">
    <ViewSwitch />
    <p v-if="short.problem" class="problem" role="alert">{{ short.problem }}</p>
    <template v-if="short.current">
      <WordFlow />
      <EmojiBar />
    </template>
    <section v-else-if="short.state" class="begin" data-short-begin>
      <h2>{{ t('short.begin.title') }}</h2>
      <template v-if="hearing && hearing.state !== 'done'">
        <p>{{ t('short.begin.hearing') }}</p>
        <JobLine :job="hearing" />
      </template>
      <template v-else-if="short.state.words">
        <p>{{ t('short.begin.body', short.state.words) }}</p>
        <template v-if="track.captions.length">
          <v-btn color="primary" variant="flat" data-short-beside @click="beside">{{ t('short.begin.beside') }}</v-btn> <KeyCap command="short-beside" />
          <p class="soft">{{ t('short.begin.stays', track.captions.length) }}</p>
          <p class="soft"><KeyCap command="look-next" /> {{ t('short.begin.anew', track.captions.length) }}</p>
        </template>
        <p v-else class="soft"><KeyCap command="look-next" /> {{ t('short.begin.key') }}</p>
      </template>
      <template v-else-if="project.project?.film.has_sound">
        <p>{{ t('short.begin.first') }}</p>
        <RecognisePanel />
      </template>
      <p v-else>{{ t('short.begin.noWords') }}</p>
    </section>
    <PlacedIn place="on-picture">
      <WindowHand v-if="versions.shown" />
      <SeenMask v-if="masked" />
    </PlacedIn>
    <PlacedIn place="panel">
      <div class="panel-in">
        <LookShelf @give="short.apply" />
        <ShortPanel v-if="short.current" :masked="masked" @mask="masked = !masked" />
      </div>
    </PlacedIn>
  </div>
</template>

<style scoped>
.short {
  display: flex;
  flex-direction: column;
  height: 100%;
  min-height: 0;
  overflow: hidden;
  border-right: 1px solid var(--line);
}
.problem {
  margin: 0;
  padding: 6px 12px;
  font-size: 13px;
  color: var(--heather);
}
.begin {
  padding: 18px 16px;
}
.begin h2 {
  margin: 0 0 8px;
  font-size: 16px;
  font-weight: 600;
}
.begin p {
  margin: 8px 0;
  font-size: 13.5px;
}
.panel-in {
  /* What is hidden in it is placed within it, and not below the window. */
  position: relative;
  height: 100%;
  overflow: auto;
}
</style>
