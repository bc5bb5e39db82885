<script setup lang="ts">
/** Words looked for in captions, each hit shown with what would stand there, and replaced as one step. */
import { watchDebounced } from '@vueuse/core'
import { computed, nextTick, onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import { answered, client, named, type Schemas } from '@/api/client'
import { unitAt } from '@/kit/characters'
import { useCommands } from '@/kit/commands/commands'
import { useFocusReturn } from '@/kit/focusReturn'
import { usePlayer } from '@/picture/playerStore'
import { useSelection } from '@/score/selectionStore'
import { textOf } from '@/session/captions'
import { useFound } from '@/session/foundStore'
import { useHistory } from '@/session/historyStore'
import { useProject } from '@/session/projectStore'
import type { Hit as CardHit } from '@/session/spans'
import { newId, useTrack } from '@/session/tracksStore'

const emit = defineEmits<{ close: [] }>()
const { t } = useI18n()
const project = useProject()
const track = useTrack()
const player = usePlayer()
const selection = useSelection()
const history = useHistory()

type Hit = Schemas['HitView']
const field = ref<HTMLInputElement | null>(null)
const text = ref('')
const replacement = ref('')
const options = ref({ word: false, exact: false, pattern: false })
const allTracks = ref(false)
const found = shallowRef<Schemas['FoundView'] | null>(null)
const at = ref(-1)
const problem = ref('')
let asked = 0

useCommands([{ id: 'panel-close', run: () => emit('close') }])

useFocusReturn(() => field.value?.focus())

const request = computed(() => ({
  text: text.value, replacement: replacement.value, ...options.value,
  tracks: allTracks.value ? project.project!.tracks.map(({ id }) => id) : [track.id],
}))
const params = computed(() => ({ path: { project_id: project.project!.id } }))

async function look() {
  const mine = ++asked
  problem.value = ''
  if (!text.value) {
    found.value = null
    return
  }
  try {
    await history.stored()
    const now = await answered(client.POST('/api/projects/{project_id}/find', { params: params.value, body: request.value }))
    if (mine === asked) found.value = now
  } catch (refused) {
    if (mine !== asked) return
    found.value = null
    problem.value = (refused as Error).message
  }
}
watchDebounced([request, () => track.captions], look, { debounce: 200, deep: true })
watch([text, options, allTracks], () => (at.value = -1), { deep: true })

const told = computed(() => {
  if (problem.value || !found.value) return problem.value
  const n = found.value.count
  return at.value < 0 && n ? t('find.found', { n }) : t('find.count', { at: at.value + 1, n }, n)
})

interface Shown extends Hit {
  number: number | null
  /** Where it stands in the caption's string. */
  from: number
  to: number
  before: string
  hit: string
  after: string
}
const shown = computed<Shown[]>(() =>
  (found.value?.hits ?? []).map((hit) => {
    const caption = hit.track === track.id ? track.byId.get(hit.caption) : undefined
    const words = (caption ? textOf(caption) : '').replaceAll('\n', ' ')
    const [from, to] = [unitAt(words, hit.start), unitAt(words, hit.end)]
    return {
      ...hit, from, to,
      number: caption ? track.captions.indexOf(caption) + 1 : null,
      before: words.slice(0, from), hit: words.slice(from, to), after: words.slice(to),
    }
  }),
)

const inCards = useFound()
watch([shown, at, replacement], () => {
  const hits = new Map<string, CardHit[]>()
  shown.value.forEach((hit, index) => {
    if (hit.number === null) return
    const own = { start: hit.from, end: hit.to, put: replacement.value ? hit.put : null, current: index === at.value }
    hits.set(hit.caption, [...(hits.get(hit.caption) ?? []), own])
  })
  inCards.hits = hits
})
onBeforeUnmount(() => (inCards.hits = new Map()))

function go(direction: 1 | -1) {
  const { length } = shown.value
  if (!length) return
  show((at.value + direction + length) % length)
}

function show(index: number) {
  at.value = index
  const hit = shown.value[index]!
  if (hit.number === null) return
  selection.only(hit.caption)
  player.place(track.byId.get(hit.caption)!.in_ms)
  void nextTick(() => document.querySelector('[data-hit].on')?.scrollIntoView({ block: 'nearest' }))
}

async function replace(hits: readonly Hit[] | null) {
  if (!found.value?.count) return
  const only = hits?.map(({ track: own, caption, start }) => ({ track: own, caption, start })) ?? null
  try {
    const made = await answered(
      client.POST('/api/projects/{project_id}/replace', {
        params: params.value, ...named(newId()), body: { ...request.value, only, base_revision: found.value.revision },
      }),
    )
    if (made) await project.happened(made)
    await look()
    if (at.value >= shown.value.length) at.value = shown.value.length - 1
  } catch (refused) {
    problem.value = (refused as Error).message
    await look()
  }
}

function pressed(event: KeyboardEvent) {
  if (event.key !== 'Enter' || !(event.target instanceof HTMLInputElement) || event.target.type !== 'text') return
  go(event.shiftKey ? -1 : 1)
  event.preventDefault()
  event.stopPropagation()
}
</script>

<template>
  <search class="find" data-caption-find @keydown="pressed" @keydown.esc.stop.prevent="emit('close')">
    <div class="line">
      <input ref="field" v-model="text" class="field" type="text" :placeholder="t('find.sought')" :aria-label="t('find.sought')" data-keys="find" dir="auto" data-find />
      <input v-model="replacement" class="field" type="text" :placeholder="t('find.put')" :aria-label="t('find.put')" data-keys="find" dir="auto" data-put />
      <button type="button" class="close" :aria-label="t('find.close')" @click="emit('close')">×</button>
    </div>
    <div class="line">
      <span class="count soft" role="status" :class="{ wrong: problem }">{{ told }}</span>
      <v-btn size="small" :disabled="at < 0" data-replace @click="replace([shown[at]!])">{{ t('find.replace') }}</v-btn>
      <v-btn size="small" :disabled="!found?.count" data-replace-all @click="replace(null)">{{ t('find.all') }}</v-btn>
    </div>
    <div class="line options">
      <label><input v-model="options.word" type="checkbox" /> {{ t('find.word') }}</label>
      <label><input v-model="options.exact" type="checkbox" /> {{ t('find.exact') }}</label>
      <label><input v-model="options.pattern" type="checkbox" /> {{ t('find.pattern') }}</label>
      <label v-if="(project.project?.tracks.length ?? 0) > 1"><input v-model="allTracks" type="checkbox" data-all-tracks /> {{ t('find.allTracks') }}</label>
    </div>
    <ol v-if="shown.length" :aria-label="t('find.hits')">
      <li v-for="(hit, index) in shown" :key="`${hit.track} ${hit.caption} ${hit.start}`" :class="{ on: index === at }" data-hit @click="show(index)">
        <span class="time soft">{{ hit.number ?? '–' }}</span>
        <span v-if="hit.number !== null">{{ hit.before }}<mark :class="{ gone: replacement }">{{ hit.hit }}</mark><ins v-if="replacement">{{ hit.put }}</ins>{{ hit.after }}</span>
        <span v-else class="soft">{{ t('find.otherTrack') }} → {{ hit.put }}</span>
      </li>
    </ol>
  </search>
</template>

<style scoped>
.find {
  display: grid;
  gap: 8px;
  padding: 10px 16px 12px;
  font-size: 13px;
  border-bottom: 1px solid var(--line);
}
.line {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 10px;
}
.line input[type='text'] {
  flex: 1;
  min-width: 90px;
  padding: 5px 9px;
}
.count {
  flex: 1;
}
.wrong {
  color: var(--heather);
}
.close {
  font-size: 18px;
}
ol {
  max-height: 30vh;
  margin: 0;
  padding: 0;
  overflow-y: auto;
  list-style: none;
}
li {
  display: flex;
  gap: 10px;
  padding: 3px 8px;
  border-radius: 4px;
  cursor: default;
}
li.on {
  background: var(--russet-wash);
}
mark {
  color: inherit;
  background: var(--tide-wash);
  border-radius: 2px;
}
.on mark {
  outline: 2px solid var(--russet);
}
mark.gone {
  text-decoration: line-through;
}
ins {
  padding: 0 2px;
  color: var(--reed);
  text-decoration: none;
  font-weight: 600;
}
</style>
