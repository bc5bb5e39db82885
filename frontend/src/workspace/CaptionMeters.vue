<script setup lang="ts">
/** The current caption against the spec, as gauges with the limit as a tick. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

import { indexAt, openFindings } from '@/session/captions'
import { useProject } from '@/session/projectStore'
import { useTrack } from '@/session/tracksStore'
import { usePlayer } from '@/picture/playerStore'
import { useSelection } from '@/score/selectionStore'
import { findingText } from '@/kit/findings'
import MeterBar from '@/kit/MeterBar.vue'
import SpellingHere from '@/spelling/SpellingHere.vue'
import { seconds } from '@/kit/time'

const { t } = useI18n()
const project = useProject()
const track = useTrack()
const player = usePlayer()
const selection = useSelection()

const caption = computed(() => {
  if (selection.current) return selection.current
  const shown = track.captions[indexAt(track.captions, player.timeMs)]
  return shown && shown.out_ms > player.timeMs ? shown : undefined
})

const told = computed(() => (caption.value ? openFindings(caption.value) : []))

interface Gauge {
  name: string
  value: string
  /** Parts of the gauge's length. */
  filled: number
  ticks: number[]
  over: boolean
  /** Close to its limit, for measures that run up to it little by little. */
  near?: boolean
}

const NEAR = 0.92

const gauges = computed<Gauge[]>(() => {
  const spec = track.spec
  const now = caption.value
  if (!spec || !now) return []
  const m = now.measures
  const broken = new Set(openFindings(now).map((finding) => finding.rule))
  const least = project.leastGapMs
  // Without a limit there is nothing to be full against: the usual one gives the length, and no tick.
  const against = (value: number, limit: number | null | undefined, usual: number) => ({
    filled: Math.min((value / (limit ?? usual)) * 0.8, 1),
    ticks: limit ? [0.8] : [],
    near: Boolean(limit && value > limit * NEAR),
  })
  const of = (value: number, limit: number | null | undefined) => (limit ? t('meter.of', { value, limit }) : String(value))
  const longest = spec.greatest_duration_ms ?? 7000
  const gap = (ms: number | null) => ({
    value: ms === null ? '–' : seconds(ms),
    filled: ms === null ? 0 : Math.min(Math.max(ms, 0) / 2000, 1),
    ticks: least ? [least / 2000] : [],
  })
  return [
    {
      name: t('meter.longestLine'),
      value: of(m.longest_line, spec.characters_per_line),
      ...against(m.longest_line, spec.characters_per_line, 42),
      over: broken.has('line-length'),
    },
    {
      name: t('meter.lines'),
      value: of(m.lines, spec.lines),
      ...against(m.lines, spec.lines, 2),
      near: false,
      over: broken.has('lines'),
    },
    {
      name: t('meter.speed'),
      value: t('meter.cps', { value: m.reading_speed.toFixed(1) }),
      ...against(m.reading_speed, spec.reading_speed, 17),
      over: broken.has('reading-speed'),
    },
    {
      name: t('meter.duration'),
      value: seconds(m.duration_ms),
      filled: Math.min((m.duration_ms / longest) * 0.8, 1),
      ticks: [spec.least_duration_ms, spec.greatest_duration_ms].flatMap((limit) => (limit ? [(limit / longest) * 0.8] : [])),
      over: broken.has('least-duration') || broken.has('greatest-duration'),
    },
    { name: t('meter.gapBefore'), ...gap(m.gap_before_ms), over: broken.has('gap') || broken.has('overlap') },
    { name: t('meter.gapAfter'), ...gap(m.gap_after_ms), over: false },
  ]
})
</script>

<template>
  <section class="meters" :aria-label="t('meter.label')">
    <template v-if="caption">
      <MeterBar v-for="gauge in gauges" :key="gauge.name" v-bind="gauge" />
      <ul v-if="told.length" class="told">
        <li v-for="(finding, index) in told" :key="index" :class="finding.weight">{{ findingText(t, finding) }}</li>
      </ul>
      <p v-else class="fine">{{ t('meter.fine', { spec: track.spec?.name }) }}</p>
      <SpellingHere />
    </template>
    <p v-else class="soft">{{ t('meter.none') }}</p>
  </section>
</template>

<style scoped>
.meters {
  display: grid;
  gap: 8px;
  padding: 12px 16px;
}
.told {
  margin: 6px 0 0;
  padding: 8px 12px;
  list-style: none;
  color: var(--heather);
  border: 1px solid currentColor;
  border-radius: 6px;
  font-size: 13px;
}
.told .advice {
  color: var(--straw);
}
.fine {
  margin: 6px 0 0;
  color: var(--reed);
  font-size: 13px;
}
p {
  margin: 0;
}
</style>
