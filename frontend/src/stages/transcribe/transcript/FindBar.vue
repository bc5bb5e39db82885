<script setup lang="ts">
/** Finds words in the transcript, and puts others in their place. */
import { computed, nextTick, onBeforeUnmount, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import { rangeBetween } from '@/kit/documents'
import { useTranscript } from '@/stages/transcribe/transcript/transcriptStore'
import { type Found, foundIn, pattern } from '@/stages/transcribe/transcript/searching'

const emit = defineEmits<{ close: [] }>()

const { t } = useI18n()
const transcript = useTranscript()
const field = ref<HTMLInputElement | null>(null)
const sought = ref('')
const put = ref('')
const options = ref({ word: false, exact: false, pattern: false })
const current = ref(-1)
const lit = new Highlight()
CSS.highlights.set('found', lit)
const now = new Highlight()
now.priority = 1
CSS.highlights.set('found-now', now)

const wanted = computed(() => pattern(sought.value, options.value))
const found = computed<Found[]>(() => {
  void transcript.version
  const doc = transcript.editor?.state.doc
  return doc && wanted.value instanceof RegExp ? foundIn(doc, wanted.value) : []
})

const told = computed(() => {
  if (!sought.value) return ''
  if (typeof wanted.value === 'string') return wanted.value
  const n = found.value.length
  return current.value < 0 && n ? t('find.found', { n }) : t('find.count', { at: current.value + 1, n }, n)
})

void nextTick(() => field.value?.focus())
onBeforeUnmount(() => ['found', 'found-now'].forEach((name) => CSS.highlights.delete(name)))

watch(found, (matches) => {
  lit.clear()
  const view = transcript.editor?.view
  if (!view) return
  for (const { from, to } of matches) lit.add(rangeBetween(view, from, to))
  if (current.value >= matches.length) current.value = -1
  lightCurrent()
})

/** The hit that is looked at stands out among the others. */
function lightCurrent() {
  now.clear()
  const match = found.value[current.value]
  if (match) now.add(rangeBetween(transcript.editor!.view, match.from, match.to))
}

function go(direction: 1 | -1) {
  const { length } = found.value
  if (!length) return
  current.value = (current.value + direction + length) % length
  lightCurrent()
  const { from } = found.value[current.value]!
  const view = transcript.editor!.view
  const { node } = view.domAtPos(from, 1)
  const element = node instanceof HTMLElement ? node : node.parentElement
  element?.scrollIntoView({ block: 'center' })
}

function replace(matches: Found[]) {
  const view = transcript.editor?.view
  if (!view || !(wanted.value instanceof RegExp) || !matches.length) return
  const { tr } = view.state
  // From the end on, so that what is still to be replaced stays where it is.
  for (const { from, to, text } of [...matches].reverse()) {
    const now = options.value.pattern ? text.replace(wanted.value, put.value) : put.value
    if (now) tr.insertText(now, from, to)
    else tr.delete(from, to)
  }
  view.dispatch(tr)
}

function replaceCurrent() {
  const match = found.value[Math.max(current.value, 0)]
  if (match) replace([match])
}

function pressed(event: KeyboardEvent) {
  if (event.key === 'Escape') emit('close')
  // A button that has the focus is pressed by Enter.
  else if (event.key === 'Enter' && event.target instanceof HTMLInputElement && event.target.type !== 'checkbox') go(event.shiftKey ? -1 : 1)
  else return
  event.preventDefault()
  event.stopPropagation()
}
</script>

<template>
  <search class="find" @keydown="pressed">
    <input ref="field" v-model="sought" class="field" :placeholder="t('find.sought')" :aria-label="t('find.sought')" data-keys="find" dir="auto" data-find />
    <span class="count soft" role="status">{{ told }}</span>
    <input v-model="put" class="field" :placeholder="t('find.put')" :aria-label="t('find.put')" data-keys="find" dir="auto" data-put />
    <v-btn size="small" :disabled="!found.length" @click="replaceCurrent">{{ t('find.replace') }}</v-btn>
    <v-btn size="small" :disabled="!found.length" data-replace-all @click="replace(found)">{{ t('find.all') }}</v-btn>
    <button type="button" class="close" :aria-label="t('find.close')" @click="emit('close')">×</button>
    <span class="options">
    <label><input v-model="options.word" type="checkbox" /> {{ t('find.word') }}</label>
    <label><input v-model="options.exact" type="checkbox" /> {{ t('find.exact') }}</label>
    <label><input v-model="options.pattern" type="checkbox" /> {{ t('find.pattern') }}</label>
    </span>
  </search>
</template>

<style scoped>
.find {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 10px;
  padding: 8px 16px;
  font-size: 12.5px;
  border-bottom: 1px solid var(--line);
}
input:not([type='checkbox']) {
  width: 150px;
  padding: 5px 9px;
  font-size: 13.5px;
}
.count {
  min-width: 64px;
}
.options {
  display: flex;
  flex-basis: 100%;
  gap: 18px;
}
.close {
  margin-left: auto;
  font-size: 18px;
}
</style>

<style>
::highlight(found) {
  background-color: var(--tide-wash);
}
::highlight(found-now) {
  color: var(--on-russet);
  background-color: var(--russet);
}
</style>
