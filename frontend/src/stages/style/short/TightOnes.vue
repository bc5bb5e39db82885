<script setup lang="ts">
/** Captions that are larger than what the viewer sees, and what can be done about the one with the cursor. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

import { useCommands } from '@/kit/commands/commands'
import KeyCap from '@/kit/commands/KeyCap.vue'
import { newId, useTrack } from '@/session/tracksStore'
import { useShort } from '@/stages/style/short/shortStore'
import { useWordCursor } from '@/stages/style/short/wordCursor'
import { lookWith } from '@/styling/looks'

const { t } = useI18n()
const track = useTrack()
const short = useShort()
const cursor = useWordCursor()
const emit = defineEmits<{ fit: [] }>()

const tight = computed(() => short.state?.tight ?? [])
const here = computed(() => tight.value.find(({ caption }) => caption === cursor.word?.caption))

function next() {
  const at = cursor.word?.line ?? -1
  const lines = tight.value.map(({ caption }) => cursor.lines.findIndex(({ id }) => id === caption)).filter((line) => line >= 0).toSorted((a, b) => a - b)
  const line = lines.find((one) => one > at) ?? lines[0]
  if (line !== undefined) cursor.put(cursor.words.findIndex((word) => word.line === line))
}
/** As much smaller as it is too large. */
function smaller() {
  const caption = track.byId.get(here.value!.caption)!
  const size = (caption.look?.size ?? short.current!.style.size ?? 0.07) / (1 + here.value!.wider + 0.01)
  const look = lookWith(caption.look, { size: Math.round(size * 1e5) / 1e5 })
  track.edit({ kind: 'change-captions', changes: [{ caption: caption.id, look: look as never }] }, newId())
}
const onTight = () => here.value !== undefined
const onWord = () => cursor.word !== undefined
useCommands([
  { id: 'tight-next', run: next, enabled: () => tight.value.length > 0, why: 'captions' },
  { id: 'caption-two-lines', run: () => void cursor.deed('two-lines'), enabled: onWord, why: 'words' },
  { id: 'caption-fewer-words', run: () => void cursor.deed('fewer-words'), enabled: onWord, why: 'words' },
  { id: 'caption-smaller', run: smaller, enabled: onTight, why: 'captions' },
])
</script>

<template>
  <div v-if="here" class="tight" data-tight-here>
    <p>{{ t('short.tightHere', { text: here.text.replaceAll('\n', ' '), percent: Math.max(Math.round(here.wider * 100), 1) }) }}</p>
    <button type="button" @click="cursor.deed('two-lines')">{{ t('short.mend.lines') }}</button> <KeyCap command="caption-two-lines" />
    <button type="button" @click="cursor.deed('fewer-words')">{{ t('short.mend.fewer') }}</button> <KeyCap command="caption-fewer-words" />
    <button type="button" @click="smaller">{{ t('short.mend.smaller') }}</button> <KeyCap command="caption-smaller" />
  </div>
  <p v-if="tight.length" class="all" data-tight>
    {{ t('short.tightOnes', tight.length) }}
    <button type="button" class="link" @click="next">{{ t('short.tightNext') }}</button> <KeyCap command="tight-next" />
    <button type="button" class="link" @click="emit('fit')">{{ t('short.fitAgain') }}</button>
  </p>
</template>

<style scoped>
.tight {
  padding: 8px 10px;
  background: var(--paper);
  border-left: 3px solid var(--heather);
}
.tight p {
  margin: 0 0 6px;
}
.tight button {
  padding: 2px 9px;
  font-size: 12.5px;
  font-weight: 600;
  color: var(--russet);
  border: 1px solid var(--russet);
  border-radius: 6px;
}
.all {
  margin: 0;
  color: var(--heather);
}
</style>
