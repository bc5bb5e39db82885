<script setup lang="ts">
/** In, out and duration of the current caption, to be typed in any usual notation. */
import { computed, nextTick, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import { answered, client } from '@/api/client'
import { retiming } from '@/session/merging'
import { newId, useTrack } from '@/session/tracksStore'
import { useProject } from '@/session/projectStore'
import { useSnapTo } from '@/score/useCardDrag'
import { useSelection } from '@/score/selectionStore'
import { useCommands } from '@/kit/commands/commands'
import { clock } from '@/kit/time'

const { t } = useI18n()
const track = useTrack()
const selection = useSelection()
const project = useProject()
const snapTo = useSnapTo()

const FIELDS = ['in', 'out', 'duration'] as const
type Field = (typeof FIELDS)[number]

const typed = ref<Record<Field, string>>({ in: '', out: '', duration: '' })
const told = ref('')
const wrong = ref(false)
const inputs = ref<HTMLInputElement[]>([])
const caption = computed(() => selection.current)

function shown(field: Field): string {
  const now = caption.value
  if (!now) return ''
  return field === 'duration' ? ((now.out_ms - now.in_ms) / 1000).toFixed(3) : clock(field === 'in' ? now.in_ms : now.out_ms)
}

watch(
  // One by one: what is being typed stays while nothing of these changes.
  [() => caption.value?.id, () => caption.value?.in_ms, () => caption.value?.out_ms],
  () => FIELDS.forEach((field) => (typed.value[field] = shown(field))),
  { immediate: true },
)
watch(() => caption.value?.id, () => (told.value = ''))

/** What was typed and is on its way. */
let underWay = ''

async function commit(field: Field) {
  const now = caption.value
  const text = typed.value[field]
  // A field tells of its change once more when it is left.
  if (!now || text === shown(field) || text === underWay) return
  underWay = text
  try {
    await track.settled()
    const times = await answered(
      client.POST('/api/tracks/{track_id}/typed-times', {
        params: { path: { track_id: track.id } },
        body: { caption: now.id, field, text, on_frames: snapTo.value.frames },
      }),
    )
    const moved = [
      times.in_ms !== now.in_ms ? t('timing.typedIn', { by: signed(times.in_ms - now.in_ms) }) : '',
      times.out_ms !== now.out_ms ? t('timing.typedOut', { by: signed(times.out_ms - now.out_ms) }) : '',
    ].filter(Boolean)
    wrong.value = false
    if (moved.length) track.edit(retiming([times]), newId())
    typed.value[field] = shown(field)
    const beyond = project.isPastEnd(times.out_ms) ? t('timing.typedPastEnd') : ''
    told.value = [...moved, beyond].filter(Boolean).join(', ') || t('timing.typedNothing')
  } catch (refused) {
    wrong.value = true
    told.value = (refused as Error).message
  } finally {
    underWay = ''
  }
}

const signed = (ms: number) => `${ms > 0 ? '+' : '−'}${(Math.abs(ms) / 1000).toFixed(3)} s`

function undoTyping(event: Event, field: Field) {
  typed.value[field] = shown(field)
  ;(event.target as HTMLElement).blur()
  document.querySelector<HTMLElement>('.page')?.focus({ preventScroll: true })
}

async function focus() {
  await nextTick()
  inputs.value[0]?.select()
  inputs.value[0]?.focus()
}

useCommands([{ id: 'type-times', run: () => void focus(), enabled: () => caption.value !== undefined }])
</script>

<template>
  <form v-if="caption" class="times" @submit.prevent>
    <label v-for="field in FIELDS" :key="field">
      {{ t(`timing.field.${field}`) }}
      <input
        ref="inputs"
        v-model="typed[field]"
        class="time"
        :data-typed="field"
        spellcheck="false"
        autocomplete="off"
        @keydown.enter.stop="commit(field)"
        @keydown.esc.stop="undoTyping($event, field)"
        @change="commit(field)"
      />
    </label>
    <p v-if="told" role="status" :class="{ wrong }">{{ told }}</p>
  </form>
</template>

<style scoped>
.times {
  display: grid;
  grid-template-columns: 1fr 1fr 84px;
  gap: 4px 8px;
  margin: 0 16px 8px;
}
label {
  font-size: 12px;
  color: var(--soft);
}
input {
  display: block;
  width: 100%;
  padding: 3px 8px;
  font-size: 13px;
  color: var(--ink);
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 5px;
}
p {
  grid-column: 1 / -1;
  margin: 0;
  font-size: 12.5px;
  color: var(--soft);
}
.wrong {
  color: var(--heather);
}
</style>
