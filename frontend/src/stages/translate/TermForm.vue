<script setup lang="ts">
/** A term with what it is called, and never called, in the other language; new, or one that is on a list. */
import { onMounted, ref } from 'vue'
import { useI18n } from 'vue-i18n'

import { languageName } from '@/kit/i18n'
import { type Scope, type TermEntry, type TermView, wordsIn } from '@/stages/translate/glossary'

const props = defineProps<{
  languages: { source: string; target: string }
  /** The one that is changed; none is a new one. */
  known?: TermView
  /** What a new one begins with. */
  term?: string
  word?: string
}>()
const emit = defineEmits<{ store: [scope: Scope, entry: TermEntry]; close: [] }>()
const { t } = useI18n()

const { entry } = props.known ?? {}
const { target } = props.languages
const term = ref(entry?.term ?? props.term ?? '')
const word = ref(entry?.translations[target]?.join(' | ') ?? props.word ?? '')
const wrong = ref(entry?.forbidden[target]?.join(' | ') ?? '')
const note = ref(entry?.note ?? '')
const asWritten = ref(entry?.as_written ?? false)
const scope = ref<Scope>(props.known?.scope ?? 'project')
const field = ref<HTMLInputElement | null>(null)
onMounted(() => field.value?.focus())

/** What there is in other languages stays. */
function changed(words: Record<string, string[]>, text: string): Record<string, string[]> {
  const others = Object.fromEntries(Object.entries(words).filter(([language]) => language !== target))
  const now = wordsIn(text)
  return now.length ? { ...others, [target]: now } : others
}
function store() {
  if (!term.value.trim() || !(wordsIn(word.value).length || wordsIn(wrong.value).length)) return
  emit('store', scope.value, {
    term: term.value.trim(), language: entry?.language ?? props.languages.source, as_written: asWritten.value, note: note.value.trim(),
    translations: changed(entry?.translations ?? {}, word.value), forbidden: changed(entry?.forbidden ?? {}, wrong.value),
  })
}
const termIn = (language: string) => t('translate.termIn', { language: languageName(language) })
</script>

<template>
  <form class="term-form" @submit.prevent="store" @keydown.esc.stop="emit('close')">
    <input ref="field" v-model="term" class="field" maxlength="200" :placeholder="termIn(languages.source)" :aria-label="termIn(languages.source)" data-term-source />
    <input v-model="word" class="field" maxlength="200" :placeholder="termIn(languages.target)" :aria-label="termIn(languages.target)" data-term-target />
    <input v-model="wrong" class="field" maxlength="200" :placeholder="t('translate.termNot')" :aria-label="t('translate.termNot')" data-term-wrong />
    <input v-model="note" class="field" maxlength="2000" :placeholder="t('translate.termNote')" :aria-label="t('translate.termNote')" data-term-note />
    <label><input v-model="asWritten" type="checkbox" /> {{ t('translate.asWritten') }}</label>
    <label v-if="!known"><input type="checkbox" :checked="scope === 'house'" @change="scope = ($event.target as HTMLInputElement).checked ? 'house' : 'project'" /> {{ t('translate.forHouse') }}</label>
    <p class="acts">
      <v-btn size="small" type="submit" data-term-store>{{ t(known ? 'translate.changeTerm' : 'translate.storeTerm') }}</v-btn>
      <v-btn size="small" variant="text" @click="emit('close')">{{ t('translate.begin.cancel') }}</v-btn>
    </p>
  </form>
</template>

<style scoped>
.term-form {
  display: grid;
  gap: 6px;
  padding: 10px 12px;
  background: var(--sand);
  border: 1px solid var(--line);
  border-radius: 6px;
}
.acts {
  display: flex;
  gap: 8px;
  margin: 0;
}
</style>
