<script setup lang="ts">
/** The translation as a file for somebody who works on it elsewhere, and what came back of it, before it is taken in. */
import { diffWordsWithSpace } from 'diff'
import { computed, ref, shallowRef } from 'vue'
import { useI18n } from 'vue-i18n'

import { answered, client, fileBody, named, type Schemas } from '@/api/client'
import { keysWaitFor } from '@/kit/commands/commands'
import { useSelection } from '@/score/selectionStore'
import { newId, useTracks } from '@/session/tracksStore'
import { useTranslation } from '@/session/translationStore'

/** So many rows are drawn; all that are not unticked are taken. */
const MOST_SHOWN = 200
const KINDS = ['xlf', 'docx', 'csv'] as const

const { t } = useI18n()
const tracks = useTracks()
const selection = useSelection()
const translation = useTranslation()

const picker = ref<HTMLInputElement | null>(null)
const seen = shallowRef<Schemas['ReturnedView'] | null>(null)
const name = ref('')
/** Ids of captions whose change is not wanted. */
const left = ref(new Set<string>())
const problem = ref('')
const told = ref('')
const under = ref(false)

const track_id = computed(() => translation.pair!.target)
const stored = () => keysWaitFor(Promise.all([tracks.settled(), translation.settled()]))
const numbers = computed(() => new Map((translation.target?.captions.value ?? []).map(({ id }, index) => [id, index + 1])))
const chosen = computed(() => seen.value?.changes.filter(({ caption }) => !left.value.has(caption)) ?? [])
const parts = (change: Schemas['TextChangeView']) => (change.before ? diffWordsWithSpace(change.before, change.after) : [{ value: change.after, added: false, removed: false }])

async function save(kind: (typeof KINDS)[number]) {
  // What was just written is in it too.
  await stored()
  const link = document.createElement('a')
  link.href = `/api/tracks/${track_id.value}/handover.${kind}`
  link.click()
}

async function tried(what: () => Promise<void>) {
  problem.value = told.value = ''
  under.value = true
  try {
    await stored()
    await what()
  } catch (refused) {
    problem.value = (refused as Error).message
  } finally {
    under.value = false
  }
}
function look(event: Event) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  void tried(async () => {
    const params = { path: { track_id: track_id.value }, query: { name: file.name } }
    seen.value = await answered(client.POST('/api/tracks/{track_id}/handover', { params, ...fileBody(file) }))
    name.value = file.name
    left.value = new Set()
  })
}
function choose(caption: string, wanted: boolean) {
  const now = new Set(left.value)
  if (wanted) now.delete(caption)
  else now.add(caption)
  left.value = now
}
function take() {
  void tried(async () => {
    const taken = chosen.value.map(({ caption, after, said, is_confirmed }) => ({ caption, text: after, said, is_confirmed }))
    const body = { base_revision: seen.value!.revision, gesture: newId(), taken }
    await answered(client.PUT('/api/tracks/{track_id}/handover', { params: { path: { track_id: track_id.value } }, ...named(newId()), body }))
    told.value = t('translate.files.taken', taken.length)
    seen.value = null
  })
}
</script>

<template>
  <section class="files" :aria-label="t('translate.view.files')">
    <template v-if="!seen">
      <p class="soft">{{ t('translate.files.out') }}</p>
      <p class="acts"><v-btn v-for="kind in KINDS" :key="kind" size="small" :data-hand-over="kind" @click="save(kind)">{{ t(`translate.files.kind.${kind}`) }}</v-btn></p>
      <p class="soft">{{ t('translate.files.back') }}</p>
    </template>
    <p class="acts">
      <v-btn size="small" :disabled="under" data-hand-back @click="picker?.click()">{{ t('translate.files.pick') }}</v-btn>
      <input ref="picker" type="file" accept=".xlf,.xliff,.docx,.csv,.tsv" class="visually-hidden" tabindex="-1" :aria-label="t('translate.files.pick')" data-returned-file @change="look" />
    </p>
    <p v-if="told" role="status" data-taken>{{ told }}</p>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <template v-if="seen">
      <h3>{{ name }}</h3>
      <p v-if="!seen.changes.length">{{ t('translate.files.same') }}</p>
      <ul>
        <li v-for="change in seen.changes.slice(0, MOST_SHOWN)" :key="change.caption" data-change>
          <input type="checkbox" :checked="!left.has(change.caption)" :aria-label="t('translate.files.takeOne', { number: numbers.get(change.caption) ?? '' })" @change="choose(change.caption, ($event.target as HTMLInputElement).checked)" />
          <button type="button" class="words" @click="selection.only(change.caption)">
            <b class="time">{{ numbers.get(change.caption) }}</b>
            <span><template v-for="(part, n) in parts(change)" :key="n"><ins v-if="part.added">{{ part.value }}</ins><del v-else-if="part.removed">{{ part.value }}</del><template v-else>{{ part.value }}</template></template></span>
            <small v-if="change.source_changed" class="problem">{{ t('translate.files.sourceChanged') }}</small>
            <small v-else-if="change.is_confirmed" class="soft">{{ t('translate.files.final') }}</small>
          </button>
        </li>
      </ul>
      <p v-if="seen.changes.length > MOST_SHOWN" class="soft">{{ t('translate.files.more', { n: seen.changes.length - MOST_SHOWN }) }}</p>
      <template v-if="seen.left_over.length">
        <p class="problem">{{ t('translate.files.leftOver', seen.left_over.length) }}</p>
        <p v-for="(line, index) in seen.left_over" :key="index" class="soft">{{ line }}</p>
      </template>
      <p class="acts">
        <v-btn color="primary" size="small" :disabled="under || !chosen.length" data-take-back @click="take">{{ t('translate.files.take', chosen.length) }}</v-btn>
        <v-btn size="small" variant="text" @click="seen = null">{{ t('translate.begin.cancel') }}</v-btn>
      </p>
    </template>
  </section>
</template>

<style scoped>
.files {
  display: grid;
  gap: 10px;
}
p,
h3 {
  margin: 0;
}
h3 {
  font-size: 12.5px;
  font-weight: 650;
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  align-items: baseline;
  gap: 8px;
  padding: 6px 0;
  border-top: 1px solid var(--line);
}
.words {
  display: grid;
  grid-template-columns: 30px 1fr;
  text-align: left;
  white-space: pre-line;
}
.words small {
  grid-column: 2;
}
ins {
  text-decoration: none;
  background: color-mix(in srgb, var(--reed) 22%, transparent);
}
del {
  color: var(--heather);
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
