<script setup lang="ts">
import { inWords } from '@/kit/i18n'
import { useEventListener, useResizeObserver } from '@vueuse/core'
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import { AFTER_MS, BEFORE_MS, CaptionOverlay } from '@/picture/captionOverlay'
import { type Drawing, linesOf, readLines } from '@/picture/toldLines'
import VersionGround from '@/picture/VersionGround.vue'
import { filmBehind, placeAt } from '@/picture/windowAt'
import { useHand } from '@/picture/handStore'
import { usePlayer } from '@/picture/playerStore'
import { useFonts } from '@/session/fonts'
import { useProject } from '@/session/projectStore'
import JobLine from '@/kit/JobLine.vue'
import { run } from '@/kit/commands/commands'
import { titleOf } from '@/kit/commands/titles'
import { useTrack } from '@/session/tracksStore'
import { useVersions } from '@/session/versionsStore'

const { t } = useI18n()
const project = useProject()
const track = useTrack()
const player = usePlayer()
const hand = useHand()
const fonts = useFonts()
const versions = useVersions()

const video = ref<HTMLVideoElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)
let overlay: CaptionOverlay | null = null
let held: readonly [number, number] = [0, 0]
let puts = 0

const film = computed(() => project.project?.film)
const source = computed(() => (film.value?.playable ? `/api/films/${film.value.id}/file` : undefined))
const copying = computed(() => project.latest('copy'))
/** The picture that is shown: a version's, or the film's own. */
const shown = computed(() => versions.shown)
const picture = computed(() => shown.value?.picture ?? { width: film.value?.width || 16, height: film.value?.height || 9 })
const ratio = computed(() => picture.value.width / picture.value.height)
const isWhole = computed(() => Boolean(shown.value?.version.whole && shown.value.version.shape))
const ground = ref<InstanceType<typeof VersionGround> | null>(null)
const drawing = computed<Drawing>((before) => {
  const version = shown.value
  const name = version ? `${track.id} ${version.id} ${version.apart_revision} ${version.script_head}` : track.id
  // Where the window is, and in which colours, changes nothing about captions.
  return before?.name === name && before.version?.apart === version?.apart ? before : { track: track.id, name, version }
})
const scriptHead = computed(() => shown.value?.script_head ?? track.scriptHead)

/** Puts the film behind the version's window, where that is at a time. */
function placeFilm(ms: number) {
  const element = video.value
  if (!element || !film.value) return
  const { version, window } = shown.value ?? {}
  if (!version || !window || isWhole.value) {
    if (element.style.width) for (const side of ['left', 'top', 'width', 'height'] as const) element.style[side] = ''
    ground.value?.draw(element)
    return
  }
  const behind = filmBehind(placeAt(version.moments ?? [], ms), film.value, window)
  for (const side of ['left', 'top', 'width', 'height'] as const) element.style[side] = `${behind[side] * 100}%`
}
watch([shown, isWhole, video], () => placeFilm(Math.round(player.timeMs)), { flush: 'post' })
const colours = computed(() => (shown.value?.colours ?? []).map((row) => `${row.slice(0, 3).join(' ')} 0 ${row[3]}`).join(' '))

onMounted(() => {
  player.attach(video.value)
  watch(
    () => track.scriptHead,
    (head) => {
      if (head && !overlay) begin(head)
    },
    { immediate: true },
  )
})

function begin(head: string) {
  if (!canvas.value) return
  overlay = new CaptionOverlay(canvas.value, head)
  void putNear()
  void draw(player.timeMs / 1000)
  followFrames()
}
// A renderer keeps the fonts it was given: another one begins, on a canvas of its own.
watch(
  () => fonts.replaced,
  () => {
    overlay?.destroy()
    overlay = null
    if (track.scriptHead) begin(track.scriptHead)
  },
  { flush: 'post' },
)

useResizeObserver(canvas, () => void overlay?.resized())

// A copy that becomes playable comes in a new element, and so does another film.
watch(video, (element) => {
  player.failed = false
  player.attach(element)
  followFrames()
})

// A page that is left gives its renderer's memory back at once.
useEventListener(window, 'pagehide', (event) => {
  if (!event.persisted) overlay?.destroy()
})

onBeforeUnmount(() => {
  player.attach(null)
  overlay?.destroy()
  overlay = null
})

async function draw(mediaTime: number) {
  placeFilm(Math.round(mediaTime * 1000))
  const moment = { mediaTime, ...picture.value }
  await overlay?.show(moment)
  if (canvas.value && overlay?.shows(moment)) canvas.value.dataset.overlay = String(Math.round(mediaTime * 1000))
}

/** Every frame that the film shows is drawn on with the captions of its own time. */
function followFrames() {
  const element = video.value
  if (!element || !overlay) return
  element.requestVideoFrameCallback((_, frame) => {
    if (element !== video.value) return
    void draw(frame.mediaTime)
    followFrames()
  })
}

// Sound alone has no frames to follow.
watch(
  () => player.timeMs,
  (ms) => {
    if (film.value && !film.value.has_picture) void draw(ms / 1000)
    if (ms < held[0] + BEFORE_MS / 2 || ms > held[1] - AFTER_MS / 4) void putNear()
  },
)
watch([() => track.captions, () => hand.held, drawing], () => void putNear())
watch(picture, (now, was) => now.width !== was.width || now.height !== was.height ? void draw(player.timeMs / 1000) : undefined, { flush: 'post' })

async function putNear() {
  // Of a track that is opened there is no head yet.
  if (!overlay || !scriptHead.value) return
  const from = Math.max(player.timeMs - BEFORE_MS, 0)
  held = [from === 0 ? -BEFORE_MS : from, player.timeMs + AFTER_MS]
  const { lines, head } = hand.held ?? { lines: null, head: null }
  const turn = String(++puts)
  if (canvas.value) canvas.value.dataset.asked = turn
  const now = drawing.value
  const near = track.between(held[0], held[1])
  const put = () => overlay?.put(head ?? scriptHead.value, near.map((caption) => lines?.get(caption.id) ?? linesOf(caption, now)))
  await put()
  await readLines(now, near, player.timeMs, () => void put(), () => turn !== String(puts)).catch(() => {
    // They are asked for again when the film has gone on, or the captions are others.
  })
  await put()
  // Which of them is drawn: told for whoever waits for it.
  if (canvas.value && turn === String(puts)) canvas.value.dataset.drawn = turn
}
</script>

<template>
  <div class="film" :class="{ upright: ratio < 1 }" @click="player.toggle()">
    <div class="frame" :style="{ aspectRatio: ratio, '--ratio': ratio }">
      <VersionGround v-if="isWhole" ref="ground" class="graded" :ratio="ratio" />
      <svg v-if="shown" class="colours" aria-hidden="true">
        <filter id="version-colours" color-interpolation-filters="sRGB"><feColorMatrix :values="`${colours} 0 0 0 1 0`" /></filter>
      </svg>
      <video
        ref="video"
        :class="{ whole: isWhole, graded: shown }"
        :key="source"
        :src="source"
        preload="auto"
        playsinline
        :aria-label="t('player.film')"
        @ended="player.ended()"
        @seeked="player.seeked()"
        @error="player.failed = Boolean(source)"
      />
      <canvas :key="fonts.replaced" ref="canvas" data-overlay="" />
      <div id="on-picture" @click.stop />
    </div>
    <div v-if="film && !project.hasFilm" class="cover">
      <JobLine v-if="project.fetching" :job="project.fetching" />
      <p v-else>{{ t('film.none') }}</p>
      <v-btn color="primary" variant="flat" size="small" :title="titleOf('film')" @click.stop="run('film')">{{ t('film.pick') }}</v-btn>
    </div>
    <div v-else-if="film && !film.playable" class="cover">
      <p v-if="copying?.state === 'failed'">{{ t('player.copyFailed', { reason: copying.error ? inWords(copying.error) : '' }) }}</p>
      <template v-else>
        <p>{{ t('player.copying') }}</p>
        <v-progress-linear :model-value="(copying?.progress ?? 0) * 100" class="bar" />
      </template>
    </div>
    <p v-else-if="player.failed" class="cover">{{ t('player.failed') }}</p>
    <p v-if="project.hasFilm && !film?.has_picture" class="cover sound-only">{{ t('player.soundOnly') }}</p>
    <p v-if="film?.ends_early_ms" class="early">
      {{ t('player.endsEarly', { at: Math.round(film.ends_early_ms / 100) / 10 }) }}
    </p>
    <p v-if="film?.sound_ends_early_ms" class="early">
      {{ t('player.soundEndsEarly', { at: Math.round(film.sound_ends_early_ms / 100) / 10 }) }}
    </p>
  </div>
</template>

<style scoped>
.film {
  position: relative;
  background: #14191b;
  display: flex;
  justify-content: center;
  overflow: hidden;
  flex: none;
}
.frame {
  position: relative;
  width: 100%;
  overflow: hidden;
}
.upright .frame {
  width: auto;
  height: min(46vh, 420px);
}
video,
canvas {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}
video {
  object-fit: fill;
}
video.whole {
  object-fit: contain;
}
.graded {
  filter: url('#version-colours');
}
.colours {
  position: absolute;
  width: 0;
  height: 0;
}
canvas {
  pointer-events: none;
}
#on-picture {
  position: absolute;
  inset: 0;
  pointer-events: none;
}
#on-picture > :deep(*) {
  pointer-events: auto;
}
.cover {
  position: absolute;
  inset: 0;
  display: grid;
  place-content: center;
  gap: 10px;
  margin: 0;
  padding: 20px 40px;
  text-align: center;
  color: #e9e2d3;
}
.sound-only {
  place-content: start center;
  font-size: 12.5px;
  opacity: 0.7;
}
.bar {
  width: 240px;
}
.early {
  position: absolute;
  left: 0;
  right: 0;
  top: 0;
  margin: 0;
  padding: 4px 10px;
  font-size: 12.5px;
  background: #dbaf4e;
  color: #23201c;
}
</style>
