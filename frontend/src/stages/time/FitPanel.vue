<script setup lang="ts">
/** Captions timed by what is said in them; the doubtful ones heard one after the other. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

import { textOf } from '@/session/captions'
import { useProject } from '@/session/projectStore'
import { useTrack } from '@/session/tracksStore'
import { useSelection } from '@/score/selectionStore'
import { useCommands } from '@/kit/commands/commands'
import JobLine from '@/kit/JobLine.vue'
import ChoiceRow from '@/kit/ChoiceRow.vue'
import { useFit } from '@/stages/time/fitStore'
import { useTiming } from '@/stages/time/timingStore'
import TimingPanel from '@/stages/time/TimingPanel.vue'
import KeyCap from '@/kit/commands/KeyCap.vue'

const { t } = useI18n()
const project = useProject()
const track = useTrack()
const selection = useSelection()
const timing = useTiming()
const fit = useFit()

const busy = computed(() => fit.job?.state === 'running' || fit.job?.state === 'waiting')
const scope = computed({
  get: () => (fit.onlySelected ? 'selection' : 'all'),
  set: (value: 'all' | 'selection') => (fit.onlySelected = value === 'selection'),
})
const scopes = computed(() => (['all', 'selection'] as const).map((value) => ({ value, title: t(`timing.scope.${value}`) })))
const current = computed(() => track.byId.get(fit.queue[0] ?? ''))

useCommands([
  { id: 'fit-apply', run: () => fit.apply(), enabled: () => fit.found !== null },
  { id: 'fit-accept', run: () => fit.accept(), enabled: () => fit.queue.length > 0 },
  { id: 'fit-redo', run: () => void fit.redo(), enabled: () => fit.queue.length > 0 && !fit.redoing },
  { id: 'fit-hear', run: () => fit.hear(), enabled: () => fit.queue.length > 0 },
])
</script>

<template>
  <TimingPanel :title="t('timing.fit')">
    <template v-if="fit.queue.length && current">
      <p>{{ t('timing.doubtfulLeft', fit.queue.length) }}</p>
      <p class="words" data-doubtful>{{ textOf(current) }}</p>
      <p class="soft">{{ t('timing.sure', { percent: Math.round((fit.sureness.get(current.id) ?? 0) * 100) }) }}</p>
      <div class="line">
        <v-btn color="primary" size="small" data-accept @click="fit.accept()">{{ t('timing.accept') }}</v-btn><KeyCap command="fit-accept" />
        <v-btn size="small" @click="fit.hear()">{{ t('timing.hearAgain') }}</v-btn><KeyCap command="fit-hear" />
        <v-btn size="small" :disabled="fit.redoing !== ''" data-redo @click="fit.redo()">{{ t('timing.fitAgain') }}</v-btn><KeyCap command="fit-redo" />
        <v-btn size="small" @click="timing.show('cue')">{{ t('timing.cueHere') }}</v-btn>
      </div>
      <p class="soft">{{ t('timing.doubtfulHint') }}</p>
    </template>
    <template v-else-if="!project.project?.film.has_sound">
      <p class="soft">{{ project.hasFilm ? t('timing.noSound') : t('timing.noFilm') }}</p>
    </template>
    <template v-else>
      <p class="soft">{{ t('timing.fitHint') }}</p>
      <ChoiceRow v-model="scope" :label="t('timing.scopeLabel')" :options="scopes" />
      <JobLine v-if="fit.job && fit.job.state !== 'done'" :job="fit.job" />
      <template v-if="fit.found && !busy">
        <p role="status"><b>{{ t('timing.fitted', fit.found.length) }}</b> {{ t('timing.fittedDoubtful', fit.doubtful.length) }}</p>
        <div class="line">
          <v-btn color="primary" :disabled="!fit.found.length" data-apply @click="fit.apply()">{{ t('timing.apply', fit.found.length) }}</v-btn>
          <KeyCap command="fit-apply" />
          <v-btn size="small" variant="text" @click="fit.dismiss()">{{ t('timing.dismiss') }}</v-btn>
        </div>
      </template>
      <div v-else-if="!busy" class="line">
        <v-btn color="primary" :disabled="!track.captions.length || (fit.onlySelected && !selection.ids.size)" data-fit @click="fit.ask()">
          {{ t('timing.fitAsk') }}
        </v-btn>
      </div>
    </template>
  </TimingPanel>
</template>

<style scoped>
p {
  margin: 0;
  font-size: 13px;
}
.words {
  padding: 10px 14px;
  font-size: 17px;
  white-space: pre-line;
  background: var(--sand);
  border-left: 4px solid var(--straw-bright);
  border-radius: 6px;
}
.line {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
}
</style>
