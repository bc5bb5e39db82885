<script setup lang="ts">
/** The term lists of this project and of all projects: looked through, changed, and as files. */
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'

import ChoiceRow from '@/kit/ChoiceRow.vue'
import { useCommands } from '@/kit/commands/commands'
import KeyCap from '@/kit/commands/KeyCap.vue'
import { type Scope, type TermEntry, type TermView, useGlossary } from '@/stages/translate/glossary'
import { usePairLanguages } from '@/stages/translate/pairLanguages'
import TermForm from '@/stages/translate/TermForm.vue'

/** So many rows are drawn; whoever has more looks for words. */
const MOST_SHOWN = 200

const { t } = useI18n()
const languages = usePairLanguages()
const glossary = useGlossary()
const scope = ref<Scope>('project')
const wanted = ref('')
const open = ref<string | null>(null)
const problem = ref('')
const told = ref('')
const picker = ref<HTMLInputElement | null>(null)

const all = computed(() => glossary.lists.value?.terms ?? [])
const scopes = computed(() =>
  (['project', 'house'] as const).map((value) => ({ value, title: `${t(`translate.scope.${value}`)} ${all.value.filter((one) => one.scope === value).length}` })),
)
const words = ({ entry }: TermView) => [entry.term, ...Object.values(entry.translations).flat(), entry.note].join(' ').toLocaleLowerCase()
const found = computed(() => all.value.filter((one) => one.scope === scope.value && words(one).includes(wanted.value.trim().toLocaleLowerCase())))

async function tried(what: () => Promise<unknown>) {
  problem.value = told.value = ''
  try {
    await what()
  } catch (refused) {
    problem.value = (refused as Error).message
    await glossary.read().catch(() => undefined)
  }
}
const store = (id: string | undefined) => (where: Scope, entry: TermEntry) =>
  tried(async () => {
    await glossary.put(where, entry, id)
    open.value = null
  })
function bringIn(event: Event) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (file) void tried(async () => (told.value = t('translate.termsTaken', await glossary.takeIn(scope.value, languages.value.source, file))))
}
useCommands([{ id: 'term-add', run: () => (open.value = 'new') }])
</script>

<template>
  <section class="lists" :aria-label="t('translate.view.terms')">
    <ChoiceRow v-model="scope" :label="t('translate.scopes')" :options="scopes" />
    <input v-model="wanted" class="field" type="search" :placeholder="t('translate.termsLook')" :aria-label="t('translate.termsLook')" data-terms-look />
    <TermForm v-if="open === 'new'" :languages="languages" @store="(...given) => void store(undefined)(...given)" @close="open = null" />
    <p v-else class="soft"><v-btn size="small" data-term-new @click="open = 'new'">{{ t('translate.newTerm') }}</v-btn> <KeyCap command="term-add" /></p>
    <p v-if="!found.length" class="soft">{{ t(wanted ? 'translate.termsNoneFound' : 'translate.termsNone') }}</p>
    <ul>
      <li v-for="one in found.slice(0, MOST_SHOWN)" :key="one.id" :data-listed="one.entry.term">
        <TermForm v-if="open === one.id" :languages="languages" :known="one" @store="(...given) => void store(one.id)(...given)" @close="open = null" />
        <template v-else>
          <button type="button" class="term" :title="t('translate.changeTerm')" @click="open = one.id">
            <b>{{ one.entry.term }}</b>
            <span>
              {{ (one.entry.translations[languages.target] ?? []).join(' | ') || '–' }}
              <span v-if="one.entry.forbidden[languages.target]" class="soft">{{ t('translate.not', { words: one.entry.forbidden[languages.target]!.join(' | ') }) }}</span>
            </span>
            <small v-if="one.entry.note" class="soft">{{ one.entry.note }}</small>
          </button>
          <button type="button" class="soft" :aria-label="t('translate.removeTerm', { term: one.entry.term })" :title="t('translate.removeTerm', { term: one.entry.term })" data-term-remove @click="tried(() => glossary.remove(one))">✕</button>
        </template>
      </li>
    </ul>
    <p v-if="found.length > MOST_SHOWN" class="soft">{{ t('translate.termsMore', { n: found.length - MOST_SHOWN }) }}</p>
    <footer>
      <p class="acts">
        <v-btn size="small" data-terms-in @click="picker?.click()">{{ t('translate.termsIn') }}</v-btn>
        <v-btn size="small" :href="glossary.fileOf(scope, 'csv')" data-terms-csv>{{ t('translate.termsOut', { kind: 'CSV' }) }}</v-btn>
        <v-btn size="small" :href="glossary.fileOf(scope, 'tbx')" data-terms-tbx>{{ t('translate.termsOut', { kind: 'TBX' }) }}</v-btn>
        <input ref="picker" type="file" accept=".csv,.tsv,.txt,.tbx,.xml" class="visually-hidden" tabindex="-1" :aria-label="t('translate.termsIn')" data-terms-file @change="bringIn" />
      </p>
      <p v-if="told" role="status">{{ told }}</p>
      <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    </footer>
  </section>
</template>

<style scoped>
.lists {
  display: grid;
  gap: 10px;
}
p {
  margin: 0;
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  justify-content: space-between;
  gap: 8px;
  padding: 6px 0;
  border-top: 1px solid var(--line);
}
li > form {
  flex: 1;
}
.term {
  flex: 1;
  display: grid;
  grid-template-columns: minmax(90px, 0.8fr) 1.2fr;
  gap: 0 10px;
  text-align: left;
}
.term b {
  font-weight: 600;
}
.term small {
  grid-column: 1 / -1;
}
footer {
  display: grid;
  gap: 8px;
  padding-top: 10px;
  border-top: 1px solid var(--line);
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.problem {
  color: var(--heather);
}
</style>
