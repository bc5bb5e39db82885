<script setup lang="ts">
/** Finds words in the transcript, and puts others in their place. */
import { watchDebounced } from '@vueuse/core'
import { computed, nextTick, onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import { rangeBetween } from '@/kit/documents'
import { useTranscript } from '@/stages/transcribe/transcript/transcriptStore'
import { type Found, foundIn } from '@/stages/transcribe/transcript/searching'

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

const found = shallowRef<readonly Found[]>([])
const problem = ref('')
const request = computed(() => ({ text: sought.value, replacement: put.value, ...options.value }))
/** What is looked for in which state of the document. */
const wanted = () => JSON.stringify([transcript.version, request.value])
/** What was. */
let seen = ''
let asked = 0

async function look() {
  const mine = ++asked
  const doc = transcript.editor?.state.doc
  const looked = wanted()
  try {
    const now = sought.value && doc ? await foundIn(doc, request.value) : []
    if (mine !== asked) return
    seen = looked
    found.value = now
    problem.value = ''
  } catch (refused) {
    if (mine !== asked) return
    seen = looked
    found.value = []
    problem.value = (refused as Error).message
  }
}
watchDebounced(wanted, look, { debounce: 120 })

const told = computed(() => {
  if (!sought.value || problem.value) return problem.value
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

/** Replaces what is found in the document as it is now; a hit is named by its place among the others. */
async function replace(only: number | null) {
  // Looking may be overtaken by another look at the same.
  while (seen !== wanted()) await look()
  const view = transcript.editor?.view
  if (!view) return
  const matches = only === null ? found.value : found.value.slice(only, only + 1)
  if (!matches.length) return
  const { tr } = view.state
  // From the end on, so that what is still to be replaced stays where it is.
  for (const match of [...matches].reverse()) {
    if (match.put) tr.insertText(match.put, match.from, match.to)
    else tr.delete(match.from, match.to)
  }
  view.dispatch(tr)
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
    <v-btn size="small" :disabled="!found.length" @click="replace(Math.max(current, 0))">{{ t('find.replace') }}</v-btn>
    <v-btn size="small" :disabled="!found.length" data-replace-all @click="replace(null)">{{ t('find.all') }}</v-btn>
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
