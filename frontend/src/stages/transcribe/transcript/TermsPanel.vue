<script setup lang="ts">
/** Names and terms as they are spelled, offered wherever something like them stands. */
import { useDebounceFn } from '@vueuse/core'
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import { answered, client, type Schemas } from '@/api/client'
import { useProject } from '@/session/projectStore'
import { useCommands } from '@/kit/commands/commands'
import { useTranscript } from '@/stages/transcribe/transcript/transcriptStore'
import KeyCap from '@/kit/commands/KeyCap.vue'

type Offer = Schemas['OfferView']

/** After an edit, once the next one is not at its heels. */
const LOOKED_AFTER_MS = 600

const { t } = useI18n()
const project = useProject()
const transcript = useTranscript()

const list = shallowRef<Schemas['OffersView'] | null>(null)
const fresh = ref('')
const problem = ref('')

/** The same words for the same term, wherever they stand. */
const groups = computed(() => {
  const found = new Map<string, Offer[]>()
  for (const offer of list.value?.offers ?? []) {
    const key = `${offer.said}\n${offer.term}`
    found.set(key, [...(found.get(key) ?? []), offer])
  }
  return [...found.values()]
})
/** What was offered holds for the transcript that was searched, and for no other. */
const current = computed(() => list.value?.revision === project.wordsRevision && transcript.saving === 'saved')

const params = () => ({ params: { path: { project_id: project.project!.id } } })
const look = async () => (list.value = await answered(client.GET('/api/projects/{project_id}/terms', params())))
const lookSoon = useDebounceFn(() => void look(), LOOKED_AFTER_MS)
onMounted(look)
watch(() => project.wordsRevision, lookSoon)

async function keep(terms: string[]) {
  problem.value = ''
  try {
    list.value = await answered(client.PUT('/api/projects/{project_id}/terms', { ...params(), body: { terms } }))
  } catch (refused) {
    problem.value = (refused as Error).message
  }
}

async function add() {
  const added = fresh.value.split(/[\n,;]/).map((term) => term.trim()).filter(Boolean)
  if (!added.length) return
  fresh.value = ''
  await keep([...(list.value?.terms ?? []), ...added])
}

function put(offers: readonly Offer[]) {
  if (!current.value) return
  transcript.putWords(offers)
  const gone = new Set(offers)
  list.value = { ...list.value!, offers: list.value!.offers.filter((offer) => !gone.has(offer)) }
  void transcript.send()
}

function goTo(offer: Offer) {
  transcript.goToWords(offer.first, offer.count)
}

const first = () => list.value?.offers[0]
useCommands([
  { id: 'term-next', run: () => goTo(first()!), enabled: () => Boolean(first()) },
  { id: 'term-accept', run: () => put([first()!]), enabled: () => Boolean(first()) && current.value },
])
</script>

<template>
  <section class="terms">
    <p class="section-title">{{ t('terms.title') }}</p>
    <ul v-if="list?.terms.length" class="list">
      <li v-for="term in list.terms" :key="term">
        {{ term }}<button type="button" :aria-label="t('terms.remove', { term })" @click="keep(list!.terms.filter((one) => one !== term))">✕</button>
      </li>
    </ul>
    <input v-model="fresh" class="fresh" :placeholder="t('terms.add')" :aria-label="t('terms.add')" data-new-term @keydown.enter.prevent="add" @keydown.esc="($event.target as HTMLElement).blur()" @blur="add">
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <template v-if="groups.length">
      <ul class="offers">
        <li v-for="group in groups" :key="group[0]!.said + group[0]!.term" data-offer>
          <button type="button" class="said" :title="t('terms.hear')" @click="goTo(group[0]!)">{{ group[0]!.said }}</button>
          <span aria-hidden="true">→</span>
          <b>{{ group[0]!.term }}</b>
          <v-btn size="x-small" :disabled="!current" data-put-term @click="put(group)">{{ t('terms.put', group.length) }}</v-btn>
        </li>
      </ul>
      <p class="line soft">
        <v-btn v-if="groups.length > 1" size="small" :disabled="!current" data-put-all-terms @click="put(list!.offers)">{{ t('terms.all', list!.offers.length) }}</v-btn>
        <span><KeyCap command="term-next" /> {{ t('terms.next') }} <KeyCap command="term-accept" /> {{ t('terms.accept') }}</span>
      </p>
    </template>
    <p v-else-if="list?.terms.length" class="soft none">{{ t('terms.none') }}</p>
  </section>
</template>

<style scoped>
.terms {
  display: grid;
  gap: 8px;
  padding: 12px 16px 14px;
  font-size: 13px;
}
.section-title,
.none {
  margin: 0;
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
.list {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.list li {
  padding: 2px 4px 2px 9px;
  background: var(--tide-wash);
  border-radius: 10px;
}
.list button {
  padding: 0 5px;
  font-size: 11px;
  color: var(--soft);
}
.fresh {
  padding: 5px 9px;
  font: 13px var(--text-font);
  color: var(--ink);
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 6px;
}
.problem {
  margin: 0;
  color: var(--heather);
}
.offers {
  max-height: 190px;
  overflow-y: auto;
}
.offers li {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 4px 0;
}
.offers .v-btn {
  margin-left: auto;
}
.said {
  color: var(--ink);
  text-align: left;
  border-bottom: 2px dotted var(--straw-bright);
}
.line {
  display: flex;
  align-items: center;
  gap: 12px;
  margin: 0;
}
</style>
