<script setup lang="ts">
/** Style: the picture is the surface, the captions' looks are set on it and beside it. */
import { onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { useStorage, useTimeoutFn } from '@vueuse/core'

import { run, useCommands } from '@/kit/commands/commands'
import PlacedIn from '@/kit/PlacedIn.vue'
import { snap } from '@/kit/time'
import { titleOf } from '@/kit/commands/titles'
import { usePlayer } from '@/picture/playerStore'
import { useProject } from '@/session/projectStore'
import { useTrack } from '@/session/tracksStore'
import { useSelection } from '@/score/selectionStore'
import CaptionLine from '@/stages/style/CaptionLine.vue'
import FontFiles from '@/stages/style/FontFiles.vue'
import { useLooks } from '@/stages/style/looksStore'
import { MOMENTARY, momentBeside, withMoment, withoutMoment } from '@/stages/style/moments'
import PassOn from '@/stages/style/PassOn.vue'
import PictureSurface from '@/stages/style/PictureSurface.vue'
import StickBar from '@/stages/style/StickBar.vue'
import { useSticking } from '@/stages/style/stickingStore'
import ShapeMenu from '@/stages/style/ShapeMenu.vue'
import ShelfActions from '@/stages/style/ShelfActions.vue'
import { useShelf } from '@/stages/style/shelfStore'
import StyleCards from '@/stages/style/StyleCards.vue'
import StylePanel from '@/stages/style/StylePanel.vue'
import StyleShelf from '@/stages/style/StyleShelf.vue'
import { useGestures } from '@/stages/style/useGestures'
import { useWindow } from '@/stages/style/useWindow'
import ViewSwitch from '@/stages/style/ViewSwitch.vue'
import { useStyles } from '@/styling/stylesStore'

/** Where styles are drawn later than this, the rows come first. */
const MOST_WAIT_MS = 400

const { t } = useI18n()
const track = useTrack()
const project = useProject()
const player = usePlayer()
const selection = useSelection()
const looks = useLooks()
const styles = useStyles()
const shelf = useShelf()
const sticking = useSticking()

const guides = useStorage('dunlin.style-guides', false)
const passing = ref(false)
/** Whether fonts are tried out in the place of styles. */
const trying = ref(false)
/** Whether the panel's rows are built: they take as long as all else of the stage, and come after the styles, which the eye is on. */
const rowsDue = ref(false)
useTimeoutFn(() => (rowsDue.value = true), MOST_WAIT_MS)
const line = ref<InstanceType<typeof CaptionLine> | null>(null)
const scale = () => (document.querySelector('[data-surface]')?.clientWidth || 1280) / looks.size.width
const gestures = useGestures(scale)
const window = useWindow()

// What is stored of styles comes before anything is taken back.
onMounted(() => {
  looks.shown = true
  void styles.read()
  selection.stopWriting()
})
onBeforeUnmount(() => {
  looks.shown = false
  looks.words = null
})

/** What is selected is seen as it is at rest, neither coming nor going: the film goes to the middle of its time. On its first frame,
 * where keys go to it, it is still to come. */
watch(
  [() => selection.currentId, () => track.loaded],
  () => {
    const caption = selection.current
    if (caption && !player.playing && (player.timeMs <= caption.in_ms || player.timeMs >= caption.out_ms)) player.place(snap((caption.in_ms + caption.out_ms) / 2, project.rate))
  },
  { immediate: true },
)
// Somebody who comes here for the first time sees the caption that is shown, or the first, in hand.
watch(
  () => track.loaded,
  (loaded) => {
    if (loaded && !selection.currentId) selection.only(looks.onPicture[0]?.id ?? selection.beside(1, player.timeMs)?.id ?? null)
  },
  { immediate: true },
)

/** Sets the captions apart at this moment, as they are now; where they are already, no longer. */
function toggleMoment() {
  const first = selection.current
  if (!first) return
  const put = !looks.current?.look.moments?.some(({ at_ms }) => at_ms === looks.momentOf(first))
  void looks.settle(
    (caption, look) => {
      const [at, frame] = [looks.momentOf(caption), looks.frameOf(caption.id)]
      if (!put) return { moments: withoutMoment(look.moments ?? [], at) }
      const place = frame ? { x: frame.x / looks.size.width, y: frame.y / looks.size.height } : {}
      const now = Object.fromEntries(MOMENTARY.map((name) => [name, look[name]]))
      return { moments: withMoment(look.moments, at, { ...now, ...place }) }
    },
    undefined,
    'caption',
  )
}
function goToMoment(direction: 1 | -1) {
  const caption = selection.current
  const moment = caption && momentBeside(looks.current?.look.moments ?? [], looks.momentOf(caption), direction)
  if (moment) player.place(caption.in_ms + moment.at_ms)
}

const any = () => selection.current !== undefined && !player.playing
const move = (dx: number, dy: number) => ({ run: () => gestures.nudge(dx, dy), enabled: any, why: 'caption' as const })
const turn = (property: 'turn' | 'tilt_x' | 'tilt_y', degrees: number) => ({
  run: () => gestures.turnBy(property, degrees), enabled: any, why: 'caption' as const,
})
useCommands([
  { id: 'place-left', ...move(-1, 0) },
  { id: 'place-right', ...move(1, 0) },
  { id: 'place-up', ...move(0, -1) },
  { id: 'place-down', ...move(0, 1) },
  { id: 'place-far-left', ...move(-10, 0) },
  { id: 'place-far-right', ...move(10, 0) },
  { id: 'place-far-up', ...move(0, -10) },
  { id: 'place-far-down', ...move(0, 10) },
  { id: 'letters-larger', run: () => gestures.resize(1), enabled: any, why: 'caption' },
  { id: 'letters-smaller', run: () => gestures.resize(-1), enabled: any, why: 'caption' },
  { id: 'turn-right', ...turn('turn', 1) },
  { id: 'turn-left', ...turn('turn', -1) },
  { id: 'tilt-back', ...turn('tilt_x', 1) },
  { id: 'tilt-forth', ...turn('tilt_x', -1) },
  { id: 'tilt-right', ...turn('tilt_y', 1) },
  { id: 'tilt-left', ...turn('tilt_y', -1) },
  { id: 'style-next', run: () => shelf.giveNext(1), enabled: () => any() && shelf.names.length > 0, why: 'style' },
  { id: 'style-before', run: () => shelf.giveNext(-1), enabled: () => any() && shelf.names.length > 0, why: 'style' },
  { id: 'style-words', run: () => line.value?.enter(), enabled: any, why: 'caption' },
  { id: 'style-words-leave', run: () => line.value?.leave(), enabled: () => document.activeElement?.hasAttribute('data-style-words') ?? false },
  { id: 'style-guides', run: () => (guides.value = !guides.value) },
  { id: 'window', run: () => (window.editing.value ? (window.editing.value = false) : window.open()), enabled: any, why: 'caption' },
  { id: 'moment', run: () => toggleMoment(), enabled: any, why: 'caption' },
  { id: 'moment-before', run: () => goToMoment(-1), enabled: any, why: 'caption' },
  { id: 'moment-next', run: () => goToMoment(1), enabled: any, why: 'caption' },
  { id: 'stick', run: () => (sticking.captionId ? sticking.leave() : sticking.open()), enabled: any, why: 'caption' },
  { id: 'try-fonts', run: () => (trying.value = !trying.value), enabled: any, why: 'caption' },
  { id: 'pass-on', run: () => (passing.value = !passing.value), enabled: any, why: 'caption' },
])
</script>

<template>
  <div class="style">
    <ViewSwitch />
    <StyleCards class="cards" />
    <PlacedIn place="on-picture">
      <PictureSurface :gestures="gestures" :window="window" :guides-shown="guides" @words="line?.enter()" />
    </PlacedIn>
    <PlacedIn place="beside">
      <div class="bar">
        <CaptionLine ref="line" class="grow" />
        <ShapeMenu />
        <v-btn size="small" :disabled="!selection.current" :color="sticking.captionId ? 'primary' : undefined" :title="titleOf('stick')" data-stick-button @click="run('stick')">{{ t('style.stick.button') }}</v-btn>
        <v-btn size="small" :color="guides ? 'primary' : undefined" :title="titleOf('style-guides')" data-guides @click="guides = !guides">{{ t('style.guides') }}</v-btn>
        <v-btn size="small" :disabled="!selection.current" :title="titleOf('pass-on')" @click="passing = !passing">{{ t('style.passOn') }}</v-btn>
      </div>
      <StickBar v-if="sticking.captionId" />
      <PassOn v-if="passing && selection.current" @close="passing = false" />
      <FontFiles :listed="trying && Boolean(selection.current)" />
      <StyleShelf :at="shelf.pressed" :fonts="trying" @give="shelf.give" @menu="shelf.pressed = $event" @drawn="rowsDue = true">
        <ShelfActions />
        <template #fonts><v-btn size="x-small" data-fonts-done @click="trying = false">{{ t('style.fontsDone') }}</v-btn></template>
      </StyleShelf>
    </PlacedIn>
    <PlacedIn place="panel"><StylePanel :rows-due="rowsDue" /></PlacedIn>
  </div>
</template>

<style scoped>
.style {
  display: flex;
  flex-direction: column;
  height: 100%;
  min-height: 0;
  overflow: hidden;
  border-right: 1px solid var(--line);
}
.cards {
  flex: 1;
  min-height: 0;
}
.bar {
  display: flex;
  align-items: center;
  gap: 6px;
  padding-right: 14px;
  background: var(--paper);
  border-bottom: 1px solid var(--line);
}
.grow {
  flex: 1;
  min-width: 0;
  border-bottom: 0;
}
</style>
