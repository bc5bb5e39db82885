<script setup lang="ts">
/** The terms that stand in the source of this caption, and a term put on the list. */
import { ref } from 'vue'
import { useI18n } from 'vue-i18n'

import { useCommands } from '@/kit/commands/commands'
import KeyCap from '@/kit/commands/KeyCap.vue'
import { useSelection } from '@/score/selectionStore'
import { useTrack } from '@/session/tracksStore'
import { useTranslation } from '@/session/translationStore'
import { type Scope, type TermEntry, useGlossary } from '@/stages/translate/glossary'
import PartHead from '@/kit/PartHead.vue'
import { usePairLanguages } from '@/stages/translate/pairLanguages'
import TermForm from '@/stages/translate/TermForm.vue'
import type { useSuggestions } from '@/stages/translate/useSuggestions'

const { suggestions } = defineProps<{ suggestions: ReturnType<typeof useSuggestions> }>()
const { t } = useI18n()
const track = useTrack()
const selection = useSelection()
const translation = useTranslation()

const adding = ref(false)
const term = ref('')
const word = ref('')
/** Whoever was writing goes on with it afterwards. */
let wasWriting: string | null = null
const languages = usePairLanguages()
const glossary = useGlossary()

/** What is selected in the page is most likely what it is about. */
function begin() {
  wasWriting = selection.writingId
  const active = document.activeElement
  word.value = active instanceof HTMLTextAreaElement ? active.value.slice(active.selectionStart, active.selectionEnd).trim() : ''
  term.value = (getSelection()?.toString() ?? '').trim()
  if (term.value === word.value) term.value = ''
  adding.value = true
}

function end() {
  adding.value = false
  if (wasWriting && track.byId.has(wasWriting)) selection.write(wasWriting)
}

async function add(scope: Scope, entry: TermEntry) {
  try {
    await glossary.put(scope, entry)
    end()
  } catch (refused) {
    track.refusal = (refused as Error).message
  }
}
useCommands([{ id: 'term-add', run: begin, enabled: () => Boolean(translation.pair?.source), why: 'now' }])
</script>

<template>
  <section class="terms" :aria-label="t('translate.terms')">
    <PartHead :title="t('translate.terms')"><KeyCap command="term-add" /> {{ t('translate.addTerm') }}</PartHead>
    <p v-for="one in suggestions.terms.value" :key="one.term + one.start" class="term" :data-term="one.term" :class="{ wrong: one.wrong || (!one.is_there && one.targets.length) }">
      <span>{{ one.term }}</span>
      <button type="button" :disabled="!one.targets.length" @click="suggestions.putTerm(one)">
        {{ one.targets.join(' | ') }} <span v-if="one.forbidden.length" class="soft">{{ t('translate.not', { words: one.forbidden.join(' | ') }) }}</span>
      </button>
      <i :title="t(one.is_there && !one.wrong ? 'translate.termThere' : 'translate.termMissing')">{{ one.is_there && !one.wrong ? '✓' : '◆' }}</i>
    </p>
    <p v-if="suggestions.terms.value.some((one) => !one.is_there && one.targets.length)" class="soft"><KeyCap command="term-put" /> {{ t('translate.putsTerm') }}</p>
    <TermForm v-if="adding" :languages="languages" :term="term" :word="word" @store="add" @close="end" />
  </section>
</template>

<style scoped>
.terms {
  display: grid;
  gap: 5px;
  padding-top: 10px;
  border-top: 1px solid var(--line);
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
</style>
