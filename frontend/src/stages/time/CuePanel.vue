<script setup lang="ts">
/** The next line, large and ready, while the film plays and keys set its in. */
import { useEventListener } from '@vueuse/core'
import { computed, onBeforeUnmount } from 'vue'
import { useI18n } from 'vue-i18n'

import { useTrack } from '@/session/tracksStore'
import { textOf } from '@/session/captions'
import type { CommandId } from '@/kit/commands/catalogue'
import { useCommands, useRestingKeys } from '@/kit/commands/commands'
import { clock } from '@/kit/time'
import ChoiceRow from '@/kit/ChoiceRow.vue'
import { CUE_WAYS, useCue } from '@/stages/time/cueStore'
import TimingPanel from '@/stages/time/TimingPanel.vue'
import { useReactionBeats } from '@/stages/time/useReactionBeats'
import KeyCap from '@/kit/commands/KeyCap.vue'

const { t } = useI18n()
const track = useTrack()
const cue = useCue()
const beats = useReactionBeats((ms) => (cue.reactionMs = Math.min(Math.max(ms, -500), 1000)))

/** Keys that work while lines are cued: those of cueing itself, and of the transport. */
const RUNNING: CommandId[] = [
  'cue-in', 'cue-out', 'cue-back', 'cue-stop', 'play', 'faster', 'slower', 'back-second', 'on-second', 'keys', 'undo', 'redo',
]

const ways = computed(() => CUE_WAYS.map((value) => ({ value, title: t(`timing.cueWay.${value}`) })))
const lastSet = computed(() => track.byId.get(cue.lastSet))

const TWO_KEYS = ['ins-and-pauses', 'ins-and-outs']
/** Ways in which the line that is spoken needs no more keys: what is shown large is the next. */
const RUN_ON = ['ins', 'ins-and-pauses']

function begin() {
  // The button that was pressed would take the keys.
  document.querySelector<HTMLElement>('.page')?.focus({ preventScroll: true })
  void cue.start()
}

useCommands([
  { id: 'cue-start', run: begin, enabled: () => !cue.running && track.captions.length > 0 },
  {
    id: 'cue-in',
    run: (event) => (beats.running.value ? beats.press(event!) : cue.press(event!)),
    up: (event) => cue.release(event), enabled: () => cue.running || beats.running.value,
  },
  { id: 'cue-out', run: (event) => cue.out(event!), enabled: () => cue.running && TWO_KEYS.includes(cue.way) },
  { id: 'cue-back', run: () => cue.back(), enabled: () => cue.running },
  { id: 'cue-stop', run: () => (beats.running.value ? beats.stop() : cue.stop()), enabled: () => cue.running || beats.running.value },
])
// Where a key may slip, others would do harm.
useRestingKeys((id) => !RUNNING.includes(id), () => cue.running)
useEventListener(window, 'blur', () => cue.lost())
useEventListener(document, 'visibilitychange', () => document.hidden && cue.lost())
onBeforeUnmount(() => cue.stop())
</script>

<template>
  <TimingPanel :title="t('timing.cue')">
    <template v-if="cue.running">
      <p v-if="lastSet" class="set">
        <span class="time">{{ clock(lastSet.in_ms).slice(3) }} → {{ clock(lastSet.out_ms).slice(3) }}</span>
        {{ textOf(lastSet).replace('\n', ' ') }}
      </p>
      <p class="next" :class="{ open: cue.open }" aria-live="polite" data-next>
        {{ cue.open && !RUN_ON.includes(cue.way) ? textOf(cue.open) : cue.awaited ? textOf(cue.awaited) : t('timing.lastLine') }}
      </p>
      <ol v-if="cue.coming.length" class="coming" :aria-label="t('timing.coming')" data-coming>
        <li v-for="line in cue.coming" :key="line.id">{{ textOf(line).replaceAll('\n', ' ') }}</li>
      </ol>
      <p class="keys">
        <span><KeyCap command="cue-in" /> {{ t(`timing.cueKey.${cue.way}`) }}</span>
        <span v-if="TWO_KEYS.includes(cue.way)"><KeyCap command="cue-out" /> {{ t(cue.way === 'ins-and-outs' ? 'timing.cueKey.out' : 'timing.cueKey.pause') }}</span>
        <span><KeyCap command="cue-back" /> {{ t('timing.cueKey.back', { s: cue.backMs / 1000 }) }}</span>
        <span><KeyCap command="cue-stop" /> {{ t('timing.cueKey.stop') }}</span>
      </p>
      <p class="soft">{{ t('timing.linesLeft', cue.left) }}</p>
    </template>
    <template v-else-if="beats.running.value">
      <p class="next beat" :data-beat="beats.beat.value" :class="{ hit: beats.beat.value }">{{ beats.beat.value }} / {{ beats.beats }}</p>
      <p>{{ t('timing.beatHint') }} <KeyCap command="cue-in" /></p>
    </template>
    <template v-else>
      <ChoiceRow v-model="cue.way" :label="t('timing.cue')" :options="ways" />
      <p class="soft">{{ t(`timing.cueHint.${cue.way}`) }}</p>
      <div class="settings">
        <label>{{ t('timing.reaction') }} <input v-model.number="cue.reactionMs" type="number" min="-500" max="1000" step="10" class="time" data-reaction /> ms</label>
        <v-btn size="x-small" data-beats @click="beats.start()">{{ t('timing.measure') }}</v-btn>
        <label>{{ t('timing.back') }} <input v-model.number="cue.backMs" type="number" min="500" max="60000" step="500" class="time" /> ms</label>
        <label><input v-model="cue.snapping" type="checkbox" /> {{ t('timing.snapSpeech') }}</label>
      </div>
      <p v-if="cue.problem" class="problem" role="alert">{{ cue.problem }}</p>
      <p v-if="!track.captions.length" class="soft">{{ t('timing.noLines') }}</p>
      <div class="act">
        <v-btn color="primary" :disabled="!track.captions.length" data-cue @click="begin">{{ t('timing.begin') }}</v-btn>
        <KeyCap command="cue-start" />
      </div>
    </template>
  </TimingPanel>
</template>

<style scoped>
p {
  margin: 0;
  font-size: 13px;
}
.set {
  overflow: hidden;
  white-space: nowrap;
  text-overflow: ellipsis;
  color: var(--reed);
}
.next {
  min-height: 92px;
  padding: 14px 18px;
  font-size: 22px;
  line-height: 1.3;
  white-space: pre-line;
  background: var(--sand);
  border-left: 4px solid var(--line);
  border-radius: 6px;
}
.next.open {
  border-left-color: var(--russet);
}
.beat {
  display: grid;
  place-content: center;
  font-size: 34px;
}
.coming {
  display: grid;
  gap: 4px;
  margin: -4px 0 0;
  padding: 0 18px;
  list-style: none;
  font-size: 14px;
  color: var(--soft);
}
.coming li {
  overflow: hidden;
  white-space: nowrap;
  text-overflow: ellipsis;
}
.keys {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 16px;
}
.settings {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 14px;
  font-size: 13px;
}
.settings input[type='number'] {
  width: 74px;
  padding: 1px 6px;
  text-align: right;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--paper);
  color: var(--ink);
}
.problem {
  color: var(--heather);
}
.act {
  display: flex;
  align-items: center;
  gap: 10px;
}
</style>
