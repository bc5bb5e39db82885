<script setup lang="ts">
/** Sticking a caption to the picture: what to do next, how sure it is from frame to frame, and what is taken of it. */
import { computed, onBeforeUnmount, onMounted, ref } from 'vue'
import { useI18n } from 'vue-i18n'

import { isPossible, run, useCommands } from '@/kit/commands/commands'
import KeyCap from '@/kit/commands/KeyCap.vue'
import JobLine from '@/kit/JobLine.vue'
import PanelHead from '@/kit/PanelHead.vue'
import { frameAt, seconds, startOfFrame } from '@/kit/time'
import { usePlayer } from '@/picture/playerStore'
import { useProject } from '@/session/projectStore'
import { useLooks } from '@/stages/style/looksStore'
import { DOUBTFUL } from '@/stages/style/paths'
import { useSticking } from '@/stages/style/stickingStore'

const { t } = useI18n()
const player = usePlayer()
const project = useProject()
const looks = useLooks()
const sticking = useSticking()
const bar = ref<HTMLElement | null>(null)

const HEIGHT = 34
const count = computed(() => sticking.path?.sure.length ?? 0)
/** Frames on the strip: a little before the path and behind it, so that its ends are seen. */
const room = computed(() => Math.max(Math.round(count.value * 0.04), 2))
const span = computed(() => count.value + 2 * room.value)
const x = (frame: number) => frame - sticking.firstFrame + room.value
/** How sure it is, as the outline of a ground. */
const ground = computed(() => {
  const sure = sticking.path?.sure ?? []
  const steps = sure.map((part, n) => `L${n + room.value} ${(HEIGHT * (1 - part)).toFixed(1)}H${n + room.value + 1}`).join('')
  return `M${room.value} ${HEIGHT}${steps}V${HEIGHT}Z`
})
const pins = computed(() => sticking.marks.map((mark) => ({ ...mark, frame: frameAt(mark.at_ms, project.rate) })))
const now = computed(() => frameAt(player.timeMs, project.rate))

function goTo(event: PointerEvent) {
  const box = (event.currentTarget as SVGElement).getBoundingClientRect()
  const frame = Math.floor(((event.clientX - box.left) / box.width) * span.value) - room.value + sticking.firstFrame
  player.place(startOfFrame(Math.max(frame, 0), project.rate))
}

const state = computed(() => {
  if (sticking.active) return 'following'
  if (sticking.path && !sticking.isNew) return 'found'
  return sticking.path ? 'changed' : 'mark'
})

const free = () => !player.playing
const pixels = (across: number, down: number) => ({ x: across / looks.size.width, y: down / looks.size.height })
const move = (across: number, down: number) => ({
  run: () => sticking.change(({ x: left, y: top }) => ({ x: left + pixels(across, down).x, y: top + pixels(across, down).y })), enabled: free,
})
const size = (across: number, down: number) => ({
  run: () => sticking.change(({ width, height }) => ({ width: width + pixels(across, down).x, height: height + pixels(across, down).y })), enabled: free,
})
const STEP = 4
const grow = (by: number) => ({ run: () => sticking.change(({ width, height }) => ({ width: width * by, height: height * by })), enabled: free })
const turn = (degrees: number) => ({ run: () => sticking.change((box) => ({ turn: box.turn + degrees })), enabled: free })
const isFound = () => state.value === 'found' && !sticking.busy
useCommands([
  { id: 'mark-left', ...move(-1, 0) },
  { id: 'mark-right', ...move(1, 0) },
  { id: 'mark-up', ...move(0, -1) },
  { id: 'mark-down', ...move(0, 1) },
  { id: 'mark-far-left', ...move(-10, 0) },
  { id: 'mark-far-right', ...move(10, 0) },
  { id: 'mark-far-up', ...move(0, -10) },
  { id: 'mark-far-down', ...move(0, 10) },
  { id: 'mark-narrower', ...size(-STEP, 0) },
  { id: 'mark-wider', ...size(STEP, 0) },
  { id: 'mark-lower', ...size(0, -STEP) },
  { id: 'mark-taller', ...size(0, STEP) },
  { id: 'mark-larger', ...grow(1.05) },
  { id: 'mark-smaller', ...grow(1 / 1.05) },
  { id: 'mark-turn-right', ...turn(1) },
  { id: 'mark-turn-left', ...turn(-1) },
  { id: 'mark-remove', run: sticking.remove, enabled: () => free() && sticking.markHere !== undefined && sticking.marks.length > 1 },
  { id: 'stick-follow', run: () => void sticking.follow(), enabled: () => !sticking.active && !sticking.busy && sticking.isNew },
  { id: 'stick-take', run: () => void sticking.take('moments'), enabled: isFound },
  { id: 'stick-take-all', run: () => void sticking.take('moments-and-times'), enabled: isFound },
  { id: 'stick-times', run: () => void sticking.take('times'), enabled: isFound },
  { id: 'stick-doubt', run: sticking.goToDoubt, enabled: () => sticking.isDoubtful },
  { id: 'stick-leave', run: sticking.leave },
])
// The keys are those of the picture, not of the button that began it.
onMounted(() => bar.value?.focus())
onBeforeUnmount(sticking.leave)
</script>

<template>
  <section ref="bar" class="stick" tabindex="-1" :aria-label="t('style.stick.title')" :data-stick="state">
    <PanelHead :title="t('style.stick.title')" :about="t(`style.stick.about.${state}`)" @close="sticking.leave()" />
    <JobLine v-if="sticking.job && (sticking.active || sticking.job.state === 'failed')" :job="sticking.job" />
    <div v-if="sticking.path" class="found">
      <svg
        :viewBox="`0 0 ${span} ${HEIGHT}`" preserveAspectRatio="none" role="img"
        :aria-label="t('style.stick.strip')" data-stick-strip @pointerdown="goTo"
      >
        <path class="ground" :d="ground" />
        <line class="least" x1="0" :x2="span" :y1="HEIGHT * (1 - DOUBTFUL)" :y2="HEIGHT * (1 - DOUBTFUL)" />
        <line v-for="pin in pins" :key="pin.at_ms" class="pin" :x1="x(pin.frame) + 0.5" :x2="x(pin.frame) + 0.5" y1="0" :y2="HEIGHT" data-stick-pin />
        <line class="now" :x1="x(now) + 0.5" :x2="x(now) + 0.5" y1="0" :y2="HEIGHT" />
      </svg>
      <p class="ends time">
        <span>{{ t('style.stick.first', { time: seconds(sticking.path.first_ms) }) }}</span>
        <span v-if="sticking.sureHere !== undefined" :class="{ doubt: sticking.sureHere < DOUBTFUL }">{{ t('style.stick.sure', { part: Math.round(sticking.sureHere * 100) }) }}</span>
        <span>{{ t('style.stick.last', { time: seconds(sticking.path.end_ms) }) }}</span>
      </p>
    </div>
    <p v-if="sticking.problem" class="problem" role="alert">{{ sticking.problem }}</p>
    <div class="actions">
      <span v-if="state !== 'found'" class="action"><v-btn size="small" color="primary" :disabled="!isPossible('stick-follow')" data-stick-follow @click="run('stick-follow')">{{ t('style.stick.follow') }}</v-btn> <KeyCap command="stick-follow" /></span>
      <template v-else>
        <span class="action"><v-btn size="small" color="primary" data-stick-take @click="run('stick-take')">{{ t('style.stick.take') }}</v-btn> <KeyCap command="stick-take" /></span>
        <span class="action"><v-btn size="small" data-stick-take-all @click="run('stick-take-all')">{{ t('style.stick.takeAll') }}</v-btn> <KeyCap command="stick-take-all" /></span>
        <span class="action"><v-btn size="small" data-stick-times @click="run('stick-times')">{{ t('style.stick.times') }}</v-btn> <KeyCap command="stick-times" /></span>
      </template>
      <span v-if="sticking.isDoubtful" class="action"><v-btn size="small" data-stick-doubt @click="run('stick-doubt')">{{ t('style.stick.doubt') }}</v-btn> <KeyCap command="stick-doubt" /></span>
      <span v-if="isPossible('mark-remove')" class="action"><v-btn size="small" data-mark-remove @click="run('mark-remove')">{{ t('style.stick.remove') }}</v-btn> <KeyCap command="mark-remove" /></span>
    </div>
  </section>
</template>

<style scoped>
.stick {
  display: grid;
  gap: 8px;
  padding: 10px 16px 12px;
  font-size: 13px;
  border-bottom: 1px solid var(--line);
}
.stick:focus {
  outline: none;
}
svg {
  display: block;
  width: 100%;
  height: 34px;
  cursor: pointer;
  background: var(--paper);
  border-bottom: 1px solid var(--line);
}
svg * {
  vector-effect: non-scaling-stroke;
}
.ground {
  fill: #9db7bd;
}
.least {
  stroke: #a6522b;
  stroke-width: 1;
  stroke-dasharray: 2 4;
}
.pin {
  stroke: #3f6b78;
  stroke-width: 3;
}
.now {
  stroke: var(--russet);
  stroke-width: 1.5;
}
.ends {
  display: flex;
  justify-content: space-between;
  margin: 3px 0 0;
  font-size: 12px;
}
.doubt {
  color: var(--russet);
}
.actions {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 14px;
}
.action {
  white-space: nowrap;
}
</style>
