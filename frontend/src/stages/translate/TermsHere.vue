<script setup lang="ts">
/** The terms that stand in the source of this caption, and a term put on the list. */
import { computed, nextTick, ref } from 'vue'
import { useI18n } from 'vue-i18n'

import { answered, client, named } from '@/api/client'
import { useCommands } from '@/kit/commands/commands'
import KeyCap from '@/kit/commands/KeyCap.vue'
import { languageName } from '@/kit/i18n'
import { useProject } from '@/session/projectStore'
import { newId, useTrack } from '@/session/tracksStore'
import { useTranslation } from '@/session/translationStore'
import type { useSuggestions } from '@/stages/translate/useSuggestions'

const { suggestions } = defineProps<{ suggestions: ReturnType<typeof useSuggestions> }>()
const { t } = useI18n()
const project = useProject()
const track = useTrack()
const translation = useTranslation()

const adding = ref(false)
const term = ref('')
const word = ref('')
const wrong = ref('')
const forHouse = ref(false)
const field = ref<HTMLInputElement | null>(null)
const languages = computed(() => {
  const of = (id: string | null | undefined) => project.project?.tracks.find((info) => info.id === id)?.language ?? 'und'
  return { source: of(translation.pair?.source), target: of(translation.pair?.target) }
})

/** What is selected in the page is most likely what it is about. */
async function begin() {
  const active = document.activeElement
  word.value = active instanceof HTMLTextAreaElement ? active.value.slice(active.selectionStart, active.selectionEnd).trim() : ''
  term.value = (getSelection()?.toString() ?? '').trim()
  if (term.value === word.value) term.value = ''
  wrong.value = ''
  adding.value = true
  await nextTick()
  field.value?.focus()
}

async function add() {
  const list = (text: string) => text.split('|').map((one) => one.trim()).filter(Boolean)
  if (!term.value.trim() || !(list(word.value).length || list(wrong.value).length)) return
  const { source, target } = languages.value
  const in_target = (words: string[]) => (words.length ? { [target]: words } : {})
  const entry = {
    term: term.value.trim(), language: source, translations: in_target(list(word.value)), forbidden: in_target(list(wrong.value)), as_written: false, note: '',
  }
  const path = { project_id: project.project!.id, scope: forHouse.value ? ('house' as const) : ('project' as const), term_id: newId() }
  try {
    await answered(client.PUT('/api/projects/{project_id}/glossary/{scope}/{term_id}', { params: { path }, ...named(newId()), body: { base_revision: 0, entry } }))
    adding.value = false
  } catch (refused) {
    track.refusal = (refused as Error).message
  }
}
useCommands([{ id: 'term-add', run: () => void begin(), enabled: () => Boolean(translation.pair?.source), why: 'now' }])
</script>

<template>
  <section class="terms" :aria-label="t('translate.terms')">
    <h3>{{ t('translate.terms') }} <span class="soft"><KeyCap command="term-add" /> {{ t('translate.addTerm') }}</span></h3>
    <p v-for="one in suggestions.terms.value" :key="one.term + one.start" class="term" :data-term="one.term" :class="{ wrong: one.wrong || (!one.is_there && one.targets.length) }">
      <span>{{ one.term }}</span>
      <button type="button" :disabled="!one.targets.length" @click="suggestions.putTerm(one)">
        {{ one.targets.join(' | ') }} <span v-if="one.forbidden.length" class="soft">{{ t('translate.not', { words: one.forbidden.join(' | ') }) }}</span>
      </button>
      <i :title="t(one.is_there && !one.wrong ? 'translate.termThere' : 'translate.termMissing')">{{ one.is_there && !one.wrong ? '✓' : '◆' }}</i>
    </p>
    <p v-if="suggestions.terms.value.some((one) => !one.is_there && one.targets.length)" class="soft"><KeyCap command="term-put" /> {{ t('translate.putsTerm') }}</p>
    <form v-if="adding" class="add" @submit.prevent="add" @keydown.esc.stop="adding = false">
      <input ref="field" v-model="term" class="field" maxlength="200" :placeholder="t('translate.termIn', { language: languageName(languages.source) })" :aria-label="t('translate.termIn', { language: languageName(languages.source) })" data-term-source />
      <input v-model="word" class="field" maxlength="200" :placeholder="t('translate.termIn', { language: languageName(languages.target) })" :aria-label="t('translate.termIn', { language: languageName(languages.target) })" data-term-target />
      <input v-model="wrong" class="field" maxlength="200" :placeholder="t('translate.termNot')" :aria-label="t('translate.termNot')" data-term-wrong />
      <label><input v-model="forHouse" type="checkbox" /> {{ t('translate.forHouse') }}</label>
      <v-btn size="small" type="submit" data-term-store>{{ t('translate.storeTerm') }}</v-btn>
    </form>
  </section>
</template>

<style scoped>
.terms {
  display: grid;
  gap: 5px;
  padding-top: 10px;
  border-top: 1px solid var(--line);
}
h3 {
  display: flex;
  justify-content: space-between;
  margin: 0;
  font-size: 12.5px;
  font-weight: 650;
}
h3 span {
  font-weight: 400;
}
p {
  margin: 0;
}
.term {
  display: grid;
  grid-template-columns: 1fr 1.4fr 16px;
  gap: 8px;
}
.term button {
  text-align: left;
}
.term i {
  font-style: normal;
  color: var(--reed);
}
.wrong i {
  color: var(--heather);
}
.add {
  display: grid;
  grid-template-columns: 1fr 1fr;
  align-items: center;
  gap: 6px;
}
.add .field {
  min-width: 0;
}
</style>
