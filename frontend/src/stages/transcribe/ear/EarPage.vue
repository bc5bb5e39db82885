<script setup lang="ts">
/** A few seconds again and again until they are typed; one key stores the line and goes on. */
import { computed, nextTick, onBeforeUnmount, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import { UNTIL, useEar } from '@/stages/transcribe/ear/earStore'
import { usePlayer } from '@/picture/playerStore'
import { textOf } from '@/session/captions'
import { useProject } from '@/session/projectStore'
import { useTrack } from '@/session/tracksStore'
import { useCommands } from '@/kit/commands/commands'
import { seconds, shortClock } from '@/kit/time'
import ChoiceRow from '@/kit/ChoiceRow.vue'
import KeyCap from '@/kit/commands/KeyCap.vue'
import BesideFilm from '@/kit/BesideFilm.vue'

const { t } = useI18n()
const project = useProject()
const track = useTrack()
const player = usePlayer()
const ear = useEar()

/** Lines above the one being typed, enough to read on from. */
const SHOWN = 6

const field = ref<HTMLTextAreaElement | null>(null)
const untils = computed(() => UNTIL.map((value) => ({ value, title: t(`ear.until.${value}`) })))
const stored = computed(() => {
  const until = ear.passage?.in_ms ?? Infinity
  return track.captions.filter((caption) => caption.in_ms < until).slice(-SHOWN)
})
const played = computed(() => {
  const now = ear.passage
  return now ? `${Math.min(Math.max((player.timeMs - now.from_ms) / (now.to_ms - now.from_ms), 0), 1) * 100}%` : '0%'
})

onBeforeUnmount(ear.leave)
watch([() => ear.until, () => ear.lengthS], () => void (ear.passage && ear.lengthen()))

/** How long the line is, and how fast it would have to be read. */
const figures = computed(() => {
  const now = ear.passage
  const spec = track.spec
  const letters = [...ear.text.replaceAll('\n', '')].filter(
    (letter) => (spec?.spaces_count !== false || /\S/u.test(letter)) && (spec?.punctuation_counts !== false || !/\p{P}/u.test(letter)),
  )
  const speed = now ? letters.length / ((now.out_ms - now.in_ms) / 1000) : 0
  return { count: letters.length, speed: speed.toFixed(1), over: Boolean(spec?.reading_speed && speed > spec.reading_speed) }
})

async function begin(afterMs: number) {
  await ear.goOn(afterMs)
  await nextTick()
  field.value?.focus()
}

const on = () => ear.passage !== null
useCommands([
  { id: 'ear-begin', run: () => void begin(ear.typedUntil), enabled: () => !on() },
  { id: 'ear-store', run: () => void ear.store(), enabled: () => on() && document.activeElement === field.value },
  { id: 'ear-again', run: ear.repeat, enabled: on },
  { id: 'ear-before', run: ear.before, enabled: on },
  { id: 'ear-skip', run: () => void ear.skip(), enabled: on },
  { id: 'ear-leave', run: ear.leave, enabled: on },
])
</script>

<template>
  <div class="ear">
    <p v-if="ear.problem" class="problem" role="alert">{{ ear.problem }}</p>
    <p v-if="!project.project?.film.has_sound" class="start soft">{{ project.hasFilm ? t('timing.noSound') : t('timing.noFilm') }}</p>
    <div v-else-if="!ear.passage" class="start">
      <h2>{{ ear.atEnd ? t('ear.atEnd') : t('ear.title') }}</h2>
      <p>{{ ear.atEnd ? t('ear.atEndBody') : t('ear.body') }}</p>
      <p class="line">
        <v-btn v-if="!ear.atEnd" color="primary" variant="flat" data-ear-begin @click="begin(ear.typedUntil)">
          {{ ear.typedUntil ? t('ear.resume', { time: shortClock(ear.typedUntil) }) : t('ear.begin') }}
        </v-btn>
        <v-btn @click="begin(player.timeMs)">{{ t('ear.here', { time: shortClock(player.timeMs) }) }}</v-btn>
      </p>
    </div>
    <template v-else>
      <ol class="above" :aria-label="t('ear.above')">
        <li v-for="caption in stored" :key="caption.id">
          <span class="time">{{ shortClock(caption.in_ms) }}</span><span>{{ textOf(caption) }}</span>
        </li>
      </ol>
      <div class="now">
        <p class="times time">
          {{ shortClock(ear.passage.in_ms) }} → {{ shortClock(ear.passage.out_ms) }}
          <span class="soft">{{ t('ear.repeated', { length: seconds(ear.passage.to_ms - ear.passage.from_ms) }) }}</span>
        </p>
        <i class="played"><b :style="{ width: played }" /></i>
        <textarea ref="field" v-model="ear.text" rows="2" :aria-label="t('ear.line')" :placeholder="t('ear.placeholder')" spellcheck="false" dir="auto" data-ear-line />
        <p class="figures time" data-ear-figures :class="{ over: figures.over }">{{ t('ear.figures', figures) }}</p>
        <p class="keys soft">
          <KeyCap command="ear-store" in-text /> {{ t('ear.store') }} <KeyCap command="ear-again" /> {{ t('ear.again') }} <KeyCap command="ear-before" /> {{ t('ear.before') }}
          <KeyCap command="ear-skip" /> {{ t('ear.skip') }}
        </p>
      </div>
    </template>
    <BesideFilm v-if="project.project?.film.has_sound" dials>
      <ChoiceRow v-model="ear.until" :label="t('ear.untilLabel')" :options="untils" />
      <label v-if="ear.until === 'length'">{{ t('ear.length') }} <input v-model.number="ear.lengthS" type="number" min="1" max="30" step="0.5" data-ear-length> s</label>
      <p class="soft">{{ t('ear.speedHint') }}</p>
    </BesideFilm>
  </div>
</template>

<style scoped>
.figures {
  margin: 6px 0 0;
  font-size: 12.5px;
  color: var(--soft);
}
.figures.over {
  color: var(--heather);
}
.ear {
  display: flex;
  flex: 1;
  flex-direction: column;
  justify-content: flex-end;
  min-height: 0;
  padding: 18px 24px 26px;
}
.problem {
  color: var(--heather);
}
.start {
  margin: 40px 16px auto;
  max-width: 520px;
}
.start h2 {
  margin: 0 0 8px;
  font-size: 20px;
}
.line {
  display: flex;
  gap: 10px;
  margin-top: 16px;
}
.above {
  display: grid;
  gap: 10px;
  margin: 0 0 22px;
  padding: 0;
  list-style: none;
  overflow-y: auto;
}
.above li {
  display: grid;
  grid-template-columns: 84px 1fr;
  gap: 12px;
  color: var(--soft);
  white-space: pre-line;
}
.above .time {
  padding-top: 3px;
  font-size: 12px;
}
.now {
  max-width: 720px;
}
.times {
  margin: 0 0 6px;
  font-size: 13px;
}
.played {
  display: block;
  height: 4px;
  margin-bottom: 8px;
  background: var(--line);
  border-radius: 2px;
}
.played b {
  display: block;
  height: 100%;
  background: var(--russet);
  border-radius: 2px;
}
textarea {
  width: 100%;
  padding: 12px 14px;
  font: 22px/1.35 var(--text-font);
  color: var(--ink);
  background: var(--paper);
  border: 2px solid var(--russet);
  border-radius: 8px;
  outline: 0;
  resize: none;
}
.keys {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 8px;
  margin: 10px 0 0;
  font-size: 13px;
}
.keys kbd:not(:first-child) {
  margin-left: 8px;
}
input {
  width: 64px;
  padding: 4px 8px;
  font: 13px var(--text-font);
  color: var(--ink);
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 6px;
}
</style>
