<script setup lang="ts">
/** Many captions moved in one go, seen on the Score before it is done. */
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'

import { usePlayer } from '@/picture/playerStore'
import { useProject } from '@/session/projectStore'
import { useTrack } from '@/session/tracksStore'
import { useSelection } from '@/score/selectionStore'
import { useCommands } from '@/kit/commands/commands'
import JobLine from '@/kit/JobLine.vue'
import { clock, minutes } from '@/kit/time'
import ChoiceRow from '@/kit/ChoiceRow.vue'
import OffsetPlot from '@/stages/time/OffsetPlot.vue'
import { BELOW_ZERO, EDGES, SCOPES, useRetime, WAYS } from '@/stages/time/retimeStore'
import TimingPanel from '@/stages/time/TimingPanel.vue'
import KeyCap from '@/kit/commands/KeyCap.vue'

const { t } = useI18n()
const project = useProject()
const track = useTrack()
const player = usePlayer()
const selection = useSelection()
const retime = useRetime()
const done = ref('')

const titled = <T extends string>(kind: string, values: readonly T[]) =>
  computed(() => values.map((value) => ({ value, title: t(`timing.${kind}.${value}`) })))
const ways = titled('way', WAYS)
const scopes = titled('scope', SCOPES)
const edges = titled('edges', EDGES)
const belowZero = titled('belowZero', BELOW_ZERO)

const breaks = computed(() => retime.pieces.filter((piece) => !piece.absent).length - 1)
const listening = computed(() => retime.job?.state === 'running' || retime.job?.state === 'waiting')
async function apply() {
  const changed = await retime.apply()
  if (changed) done.value = t('timing.moved', changed)
}

function anchorText(id: string) {
  return track.byId.get(id)?.spans.map((span) => span.text).join('').split('\n')[0] ?? ''
}

useCommands([
  { id: 'retime-apply', run: () => void apply(), enabled: () => retime.count > 0 },
  { id: 'retime-anchor', run: () => retime.addAnchor(), enabled: () => retime.way === 'anchors' },
])
</script>

<template>
  <TimingPanel :title="t('timing.retime')">
    <ChoiceRow v-model="retime.way" :label="t('timing.retime')" :options="ways" />

    <div v-if="retime.way === 'by'" class="line">
      <v-text-field v-model="retime.amount" :label="t('timing.amount')" :placeholder="t('timing.amountHint')" persistent-placeholder data-amount @focus="done = ''" />
    </div>

    <div v-else-if="retime.way === 'anchors'" class="block">
      <p class="soft">{{ t('timing.anchorHint') }} <KeyCap command="retime-anchor" /></p>
      <ul class="anchors">
        <li v-for="anchor in retime.anchors" :key="anchor.caption">
          <span class="words">{{ anchorText(anchor.caption) }}</span>
          <span class="time">{{ clock(anchor.old_ms).slice(3) }} → {{ clock(anchor.new_ms).slice(3) }}</span>
          <button type="button" :aria-label="t('timing.removeAnchor')" @click="retime.anchors = retime.anchors.filter((one) => one !== anchor)">✕</button>
        </li>
      </ul>
      <v-btn size="small" :disabled="!selection.current" @click="retime.addAnchor()">{{ t('timing.addAnchor', { time: minutes(player.timeMs) }) }}</v-btn>
    </div>

    <div v-else-if="retime.way === 'rate'" class="line">
      <v-text-field v-model="retime.fromFps" :label="t('timing.fromFps')" />
      <v-text-field v-model="retime.toFps" :label="t('timing.toFps')" />
    </div>

    <div v-else class="block">
      <p v-if="!project.project?.film.has_sound" class="soft">{{ project.hasFilm ? t('timing.noSound') : t('timing.noFilm') }}</p>
      <template v-else>
        <JobLine v-if="retime.job && retime.job.state !== 'done'" :job="retime.job" />
        <v-btn v-if="!listening" size="small" :color="retime.pieces.length ? undefined : 'primary'" data-listen @click="retime.listen()">
          {{ retime.found ? t('timing.listenAgain') : t('timing.listen') }}
        </v-btn>
        <template v-if="retime.found && !listening">
          <p v-if="!retime.found.pieces.length" class="cannot" role="status">{{ t('timing.cannotTell') }}</p>
          <template v-else-if="retime.pieces.length">
            <p class="found" role="status">
              {{ breaks ? t('timing.foundBreaks', breaks) : t('timing.foundOffset') }}
              <template v-if="retime.pieces.some((piece) => piece.absent)">{{ t('timing.foundAbsent', retime.seen?.dropped.length ?? 0) }}</template>
              <template v-if="retime.found.drift">{{ t('timing.foundDrift', { cause: retime.found.drift }) }}</template>
            </p>
            <OffsetPlot :pieces="retime.pieces" :duration-ms="project.durationMs" />
            <p class="figures">
              {{ t('timing.agreement', { before: retime.found.agreement_before, after: retime.found.agreement_after }) }}
              · {{ t('timing.sure', { percent: Math.round(retime.found.sure * 100) }) }}
            </p>
            <ol class="pieces">
              <li v-for="(piece, index) in retime.pieces" :key="piece.from_ms">
                <button type="button" class="time" @click="player.place(piece.from_ms)">{{ minutes(piece.from_ms) }}</button>
                <!-- What the sound does not have can be kept all the same. -->
                <label v-if="retime.found.pieces[index]?.absent" class="absent">
                  <input v-model="piece.absent" type="checkbox" :data-absent="piece.from_ms" />
                  {{ t('timing.absent') }}
                </label>
                <label v-if="!piece.absent">
                  <input v-model.number="piece.offset_ms" type="number" step="40" class="time" :aria-label="t('timing.pieceOffset', { n: index + 1 })" />
                  ms
                </label>
                <span v-if="piece.rate !== 1" class="soft time">× {{ piece.rate.toFixed(5) }}</span>
              </li>
            </ol>
            <label v-if="project.words.length"><input v-model="retime.withWords" type="checkbox" data-with-words> {{ t('timing.withWords') }}</label>
          </template>
        </template>
      </template>
    </div>

    <template v-if="retime.way !== 'sound'">
      <ChoiceRow v-model="retime.scope" :label="t('timing.scopeLabel')" :options="scopes" />
      <div v-if="retime.scope === 'between'" class="line">
        <v-btn size="small" @click="retime.fromMs = Math.round(player.timeMs)">{{ t('timing.betweenFrom', { time: minutes(retime.fromMs) }) }}</v-btn>
        <v-btn size="small" @click="retime.toMs = Math.round(player.timeMs)">{{ t('timing.betweenTo', { time: minutes(retime.toMs) }) }}</v-btn>
      </div>
      <ChoiceRow v-model="retime.edges" :label="t('timing.edgesLabel')" :options="edges" />
    </template>

    <p v-if="retime.pastEnd" class="below" data-past-end>{{ t('timing.pastEnd', retime.pastEnd) }}</p>
    <div v-if="retime.seen?.below_zero.length" class="below">
      <p>{{ t('timing.below', retime.seen.below_zero.length) }}</p>
      <p v-if="retime.belowZero === 'hold' && retime.seen.below_zero.length > 1" data-at-zero>{{ t('timing.atZero') }}</p>
      <ChoiceRow v-model="retime.belowZero" :label="t('timing.belowLabel')" :options="belowZero" />
    </div>
    <p v-if="retime.problem" class="cannot" role="alert">{{ retime.problem }}</p>
    <div class="line act">
      <v-btn color="primary" :disabled="!retime.count" data-apply @click="apply">{{ retime.count ? t('timing.apply', retime.count) : t('timing.applyNone') }}</v-btn>
      <KeyCap v-if="retime.count" command="retime-apply" />
      <span v-else-if="done" class="soft" role="status">{{ done }}</span>
    </div>
  </TimingPanel>
</template>

<style scoped>
.absent {
  display: flex;
  align-items: baseline;
  gap: 6px;
}
.pieces .absent input {
  width: auto;
}
p {
  margin: 0;
  font-size: 13px;
}
.line {
  display: flex;
  align-items: center;
  gap: 10px;
}
.block {
  display: grid;
  gap: 8px;
  justify-items: start;
}
.block > * {
  max-width: 100%;
}
.block :deep(.plot),
.anchors,
.pieces {
  width: 100%;
}
.anchors,
.pieces {
  margin: 0;
  padding: 0;
  list-style: none;
}
.anchors li,
.pieces li {
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 3px 0;
  font-size: 13px;
  border-bottom: 1px solid var(--line);
}
.words {
  flex: 1;
  min-width: 0;
  overflow: hidden;
  white-space: nowrap;
  text-overflow: ellipsis;
}
.pieces button {
  min-width: 52px;
  text-align: left;
  color: var(--tide);
  text-decoration: underline;
}
.pieces input {
  width: 92px;
  padding: 1px 6px;
  text-align: right;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--paper);
  color: var(--ink);
}
.below {
  display: grid;
  gap: 4px;
  padding: 8px 12px;
  color: var(--straw);
  border: 1px solid currentColor;
  border-radius: 6px;
}
.cannot {
  padding: 8px 12px;
  color: var(--heather);
  border: 1px solid currentColor;
  border-radius: 6px;
}
.found {
  font-weight: 600;
}
.figures {
  color: var(--soft);
}
</style>
