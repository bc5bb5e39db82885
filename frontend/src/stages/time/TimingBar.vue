<script setup lang="ts">
/** The ways to time many captions, under the meters of one. */
import { useI18n } from 'vue-i18n'

import { type Nudge, NUDGES, useNudge } from '@/score/nudge'
import { SNAPS } from '@/score/snapping'
import { useSnapTo } from '@/score/useCardDrag'
import TimesRow from '@/stages/time/TimesRow.vue'
import { type Panel, useTiming } from '@/stages/time/timingStore'
import KeyCap from '@/kit/commands/KeyCap.vue'
import type { CommandId } from '@/kit/commands/catalogue'

const { t } = useI18n()
const timing = useTiming()
const snapTo = useSnapTo()
const nudge = useNudge()
const PANELS: [Panel, CommandId][] = [['cue', 'cue-along'], ['retime', 'retime'], ['fit', 'fit']]

function nudgeName(step: Nudge): string {
  const n = parseInt(step)
  return step.endsWith('f') ? t('timing.nudgeFrames', n) : t('timing.nudgeMs', { n })
}
</script>

<template>
  <TimesRow />
  <nav class="bar" :aria-label="t('timing.ways')">
    <button v-for="[panel, command] in PANELS" :key="panel" type="button" @click="timing.show(panel)">
      <b>{{ t(`timing.${panel}`) }}</b> <KeyCap :command="command" />
      <small>{{ t(`timing.what.${panel}`) }}</small>
    </button>
  </nav>
  <label class="snaps">
    <span class="soft">{{ t('timing.nudge') }}</span>
    <select v-model="nudge" class="field" data-nudge>
      <option v-for="step in NUDGES" :key="step" :value="step">{{ nudgeName(step) }}</option>
    </select>
    <span class="soft"><KeyCap command="in-earlier" /> <KeyCap command="in-later" /> {{ t('timing.nudgeIn') }} <KeyCap command="out-earlier" /> <KeyCap command="out-later" /> {{ t('timing.nudgeOut') }}</span>
  </label>
  <fieldset class="snaps">
    <legend>{{ t('timing.snap') }}</legend>
    <label v-for="kind in SNAPS" :key="kind"><input v-model="snapTo[kind]" type="checkbox" :data-snap="kind" /> {{ t(`timing.snapTo.${kind}`) }}</label>
  </fieldset>
</template>

<style scoped>
.bar {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 1px;
  margin: 4px 16px 14px;
  background: var(--line);
  border: 1px solid var(--line);
  border-radius: 6px;
  overflow: hidden;
}
.snaps {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px 14px;
  margin: 0 16px 12px;
  padding: 0;
  border: 0;
  font-size: 12.5px;
}
.snaps legend {
  float: left;
  margin-right: 14px;
  color: var(--soft);
}
button {
  padding: 8px 10px;
  text-align: left;
  font-size: 13px;
  background: var(--paper);
}
button:hover {
  background: var(--sand);
}
button:focus-visible {
  outline: 2px solid var(--tide);
  outline-offset: -2px;
}
small {
  display: block;
  margin-top: 2px;
  font-size: 11.5px;
  line-height: 1.25;
  color: var(--soft);
}
</style>
