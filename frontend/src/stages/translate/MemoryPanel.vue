<script setup lang="ts">
/** What was translated before, by words of either language; and the memory as a file. */
import { watchDebounced } from '@vueuse/core'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { useI18n } from 'vue-i18n'

import { answered, client, fileBody, type Schemas } from '@/api/client'
import { useSelection } from '@/score/selectionStore'
import { useTrack, newId } from '@/session/tracksStore'
import { usePairLanguages } from '@/stages/translate/pairLanguages'

const SOON_MS = 200

const { t, locale } = useI18n()
const track = useTrack()
const selection = useSelection()
const languages = usePairLanguages()
const month = new Intl.DateTimeFormat(locale.value, { month: 'long', year: 'numeric' })

/** What is selected in the page is most likely what is looked for. */
const wanted = ref((getSelection()?.toString() ?? '').trim().slice(0, 200))
const answer = shallowRef<Schemas['ConcordanceView'] | null>(null)
const told = ref('')
const problem = ref('')
const field = ref<HTMLInputElement | null>(null)
const picker = ref<HTMLInputElement | null>(null)
onMounted(() => field.value?.focus())

let turn = 0
async function look() {
  const now = ++turn
  const { source, target } = languages.value
  const found = await answered(client.GET('/api/memory', { params: { query: { text: wanted.value, source, target } } })).catch(() => null)
  if (now === turn) answer.value = found
}
watchDebounced([wanted, languages], look, { debounce: SOON_MS, immediate: true })

/** Words that were looked for, apart from those around them. */
const pieces = computed(() => {
  const words = wanted.value.trim().split(/\s+/).filter(Boolean)
  const escaped = words.map((word) => word.replace(/[.*+?^${}()|[\]\\]/g, '\\$&'))
  return escaped.length ? new RegExp(`(${escaped.join('|')})`, 'iu') : null
})
const parts = (text: string) => (pieces.value ? text.split(pieces.value) : [text])
const from = (one: Schemas['RememberedView']) => [one.origin, one.when_ms ? month.format(one.when_ms) : ''].filter(Boolean).join(', ')

/** Takes a translation over into the caption that is selected. */
function take(text: string) {
  if (selection.current) track.edit({ kind: 'change-captions', changes: [{ caption: selection.current.id, text }] }, newId())
}

async function bringIn(event: Event) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  problem.value = told.value = ''
  try {
    const taken = await answered(client.POST('/api/memory', { params: { query: { name: file.name } }, ...fileBody(file) }))
    told.value = t('translate.memory.taken', taken.taken)
    await look()
  } catch (refused) {
    problem.value = (refused as Error).message
  }
}
const address = computed(() => `/api/memory.tmx?${new URLSearchParams(languages.value)}`)
</script>

<template>
  <section class="memory" :aria-label="t('translate.view.memory')">
    <label class="look">
      <span class="visually-hidden">{{ t('translate.memory.look') }}</span>
      <input ref="field" v-model="wanted" class="field" type="search" maxlength="200" :placeholder="t('translate.memory.look')" data-memory-look />
    </label>
    <p v-if="wanted.trim() && answer && !answer.found.length" class="soft">{{ t('translate.memory.none') }}</p>
    <ul v-if="answer?.found.length">
      <li v-for="(one, index) in answer.found" :key="index" data-found>
        <p><template v-for="(part, n) in parts(one.source)" :key="n"><mark v-if="n % 2">{{ part }}</mark><template v-else>{{ part }}</template></template></p>
        <button type="button" class="became" :disabled="!selection.current" :title="t('translate.memory.take')" @click="take(one.target)">
          <template v-for="(part, n) in parts(one.target)" :key="n"><mark v-if="n % 2">{{ part }}</mark><template v-else>{{ part }}</template></template>
        </button>
        <small v-if="from(one)" class="soft">{{ t('translate.from', { origin: from(one) }) }}</small>
      </li>
    </ul>
    <footer>
      <p class="soft">{{ t('translate.memory.count', answer?.count ?? 0) }}</p>
      <p class="acts">
        <v-btn size="small" data-memory-in @click="picker?.click()">{{ t('translate.memory.bringIn') }}</v-btn>
        <v-btn size="small" :href="address" :disabled="!answer?.count" data-memory-out>{{ t('translate.memory.save') }}</v-btn>
        <input ref="picker" type="file" accept=".tmx" class="visually-hidden" tabindex="-1" :aria-label="t('translate.memory.bringIn')" data-memory-file @change="bringIn" />
      </p>
      <p v-if="told" role="status" data-memory-taken>{{ told }}</p>
      <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    </footer>
  </section>
</template>

<style scoped>
.memory {
  display: grid;
  gap: 10px;
}
p {
  margin: 0;
}
.look input {
  width: 100%;
}
ul {
  display: grid;
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  gap: 2px;
  padding: 7px 0;
  border-top: 1px solid var(--line);
}
.became {
  text-align: left;
  font-weight: 600;
}
mark {
  color: inherit;
  background: color-mix(in srgb, var(--straw) 26%, transparent);
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
