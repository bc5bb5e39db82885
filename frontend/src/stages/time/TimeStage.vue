<script setup lang="ts">
import { onBeforeUnmount, ref } from 'vue'

import ScorePage from '@/score/ScorePage.vue'
import { useCommands } from '@/kit/commands/commands'
import CuePanel from '@/stages/time/CuePanel.vue'
import FitPanel from '@/stages/time/FitPanel.vue'
import RetimePanel from '@/stages/time/RetimePanel.vue'
import { useTiming } from '@/stages/time/timingStore'
import TimingBar from '@/stages/time/TimingBar.vue'
import { useTimingCommands } from '@/stages/time/useTimingCommands'
import BesideFilm from '@/kit/BesideFilm.vue'

const score = ref<InstanceType<typeof ScorePage> | null>(null)
const timing = useTiming()
onBeforeUnmount(() => timing.close())

useTimingCommands()
useCommands([
  { id: 'zoom-in', run: () => score.value?.zoom(1) },
  { id: 'zoom-out', run: () => score.value?.zoom(-1) },
  { id: 'scrolling', run: () => score.value?.changeScrolling() },
  { id: 'sound-picture', run: () => score.value?.changeSound() },
  { id: 'sound-larger', run: () => score.value?.amplify(2) },
  { id: 'sound-smaller', run: () => score.value?.amplify(0.5) },
  { id: 'cue-along', run: () => timing.show('cue') },
  { id: 'retime', run: () => timing.show('retime') },
  { id: 'fit', run: () => timing.show('fit') },
])
</script>

<template>
  <ScorePage ref="score" />
  <BesideFilm>
    <TimingBar v-if="!timing.panel" />
    <CuePanel v-else-if="timing.panel === 'cue'" />
    <RetimePanel v-else-if="timing.panel === 'retime'" />
    <FitPanel v-else />
  </BesideFilm>
</template>
