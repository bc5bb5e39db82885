<script setup lang="ts">
/** From where to where the film is written; null is the whole. Where the playhead is can be taken over. */
import { ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import type { Schemas } from '@/api/client'
import { shortClock } from '@/kit/time'
import { usePlayer } from '@/picture/playerStore'
import { useProject } from '@/session/projectStore'

const passage = defineModel<Schemas['Passage'] | null>({ required: true })
const { t } = useI18n()
const project = useProject()
const player = usePlayer()
const from = ref('')
const to = ref('')
const wrong = ref(false)
watch(
  () => `${passage.value?.from_ms} ${passage.value?.to_ms}`,
  () => {
    from.value = passage.value ? shortClock(passage.value.from_ms) : ''
    to.value = passage.value ? shortClock(passage.value.to_ms) : ''
    wrong.value = false
  },
  { immediate: true },
)

/** Milliseconds of a time as `1:02.5`; what is empty is the beginning, or the end. */
function msOf(text: string, empty: number): number {
  const parts = text.trim().replace(',', '.').split(':').map(Number)
  return text.trim() ? Math.round(parts.reduce((sum, part) => sum * 60 + part, 0) * 1000) : empty
}
function take() {
  const [from_ms, to_ms] = [msOf(from.value, 0), msOf(to.value, project.durationMs)]
  wrong.value = !(from_ms >= 0 && from_ms < to_ms && from_ms < project.durationMs)
  if (!wrong.value) passage.value = from_ms === 0 && to_ms >= project.durationMs ? null : { from_ms, to_ms }
}
function takeHere(end: 'from' | 'to') {
  const field = end === 'from' ? from : to
  field.value = shortClock(player.timeMs)
  take()
}
</script>

<template>
  <div class="dial passage" role="group" :aria-label="t('packing.dial.passage')">
    <span>{{ t('packing.dial.passage') }}</span>
    <input v-model="from" class="time" type="text" :aria-label="t('packing.dial.begins')" :placeholder="shortClock(0)" :aria-invalid="wrong" data-dial="from" @change="take" />
    <button type="button" class="link" :aria-label="t('packing.beginsHere')" @click="takeHere('from')">{{ t('packing.here') }}</button>
    <span>–</span>
    <input v-model="to" class="time" type="text" :aria-label="t('packing.dial.ends')" :placeholder="shortClock(project.durationMs)" :aria-invalid="wrong" data-dial="to" @change="take" />
    <button type="button" class="link" :aria-label="t('packing.endsHere')" @click="takeHere('to')">{{ t('packing.here') }}</button>
    <small v-if="wrong" role="alert" class="wrong">{{ t('packing.noPassage') }}</small>
  </div>
</template>

<style scoped>
.passage {
  gap: 4px 6px;
}
.dial input[type='text'] {
  flex: none;
  width: 84px;
}
.wrong {
  flex-basis: 100%;
  color: var(--heather);
}
</style>
