<script setup lang="ts">
/** Words about the film, each piece with where it was said: written by hand, made longer or shorter, another one, made a clip. */
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import BesideFilm from '@/kit/BesideFilm.vue'
import { type CommandId, DECLARED } from '@/kit/commands/catalogue'
import { keysWaitFor, useCommands, useRestingKeys } from '@/kit/commands/commands'
import KeyCap from '@/kit/commands/KeyCap.vue'
import NoticeLine from '@/kit/NoticeLine.vue'
import { usePlayer } from '@/picture/playerStore'
import { type How, type Piece, useAbout } from '@/session/aboutStore'
import { usePacking } from '@/session/packingStore'
import { useProject } from '@/session/projectStore'
import { useTrack } from '@/session/tracksStore'
import { AS_THE_FILM } from '@/stages/deliver/things'
import AskFilm from '@/stages/deliver/words/AskFilm.vue'
import PieceRow from '@/stages/deliver/words/PieceRow.vue'

const KINDS = ['title', 'short', 'middle', 'long', 'keywords', 'chapter', 'passage'] as const

const { t } = useI18n()
const about = useAbout()
const packing = usePacking()
const project = useProject()
const player = usePlayer()
const track = useTrack()
const problem = ref('')
const told = ref('')
const writing = ref(false)
/** What the piece was, and of which revision, that is written over. */
let over: { piece: Piece; since: number | null } | null = null
const asking = ref<InstanceType<typeof AskFilm> | null>(null)
const list = ref<HTMLElement | null>(null)

onMounted(() => void keysWaitFor(about.read().catch((refused: Error) => (problem.value = refused.message))))

const sections = computed(() => KINDS.map((kind) => ({ kind, pieces: about.pieces.filter(({ piece }) => piece.kind === kind) })).filter(({ pieces }) => pieces.length))
const ordered = computed(() => sections.value.flatMap(({ pieces }) => pieces))

function inSight() {
  void nextTick(() => list.value?.querySelector('[aria-current=true]')?.scrollIntoView({ block: 'nearest' }))
}
watch(() => [about.selectedId, about.selected?.piece], inSight)
function step(by: number) {
  const at = ordered.value.findIndex(({ id }) => id === about.selectedId)
  about.selectedId = ordered.value[Math.min(Math.max(at + by, 0), ordered.value.length - 1)]?.id ?? null
  told.value = ''
}
async function attempt(what: () => Promise<unknown>) {
  problem.value = ''
  told.value = ''
  try {
    await keysWaitFor(what())
  } catch (refused) {
    problem.value = (refused as Error).message
  }
}
const begin = () => attempt(() => about.begin())
const again = (how: How) => attempt(() => about.again(about.selectedId!, how))
function hear(id = about.selectedId) {
  const said = about.pieces.find((one) => one.id === id)?.piece.said ?? []
  if (said.length) player.hear(said[0]!.from_ms, said[0]!.to_ms)
}
function write(id = about.selectedId!) {
  about.selectedId = id
  over = { piece: about.selected!.piece, since: about.shownRevision() }
  writing.value = true
}
function written(id: string, text: string) {
  writing.value = false
  if (over && text.trim() && text !== over.piece.text) void about.put({ [id]: { ...over.piece, text: text.trim() } }, over.since)
  over = null
}
function leave() {
  over = null
  writing.value = false
}
const begins = ({ said }: Piece) => said?.[0]?.from_ms ?? 0
/** A chapter begins where the playhead is. */
function beginHere() {
  const one = about.selected!
  const ends = Math.max(one.piece.said?.[0]?.to_ms ?? project.durationMs, player.timeMs + 1)
  void about.put({ [one.id]: { ...one.piece, said: [{ from_ms: Math.round(player.timeMs), to_ms: Math.round(ends) }] } })
}
/** Puts the passage on a packing list as a film of its own. */
const clip = () =>
  attempt(async () => {
    const { piece } = about.selected!
    await packing.read()
    if (!packing.shownId) await packing.begin(t('aboutFilm.clips'))
    await packing.show(packing.shownId)
    const passage = { from_ms: piece.said![0]!.from_ms, to_ms: Math.min(piece.said!.at(-1)!.to_ms, project.durationMs) }
    await packing.add({ kind: 'burned', track: track.id, encoding: { ...AS_THE_FILM, passage }, version: null, above: null })
    told.value = t('aboutFilm.clipMade', { list: packing.shown?.name ?? '' })
  })

const has = () => about.selected !== undefined && !writing.value
const OF_CAPTIONS: ReadonlySet<CommandId> = new Set([...DECLARED.values()].filter(({ area }) => area === 'captions' || area === 'styling').map(({ id }) => id))
useRestingKeys((id) => OF_CAPTIONS.has(id), () => true)
useCommands([
  { id: 'piece-next', run: () => step(1), enabled: () => ordered.value.length > 0, why: 'now' },
  { id: 'piece-before', run: () => step(-1), enabled: () => ordered.value.length > 0, why: 'now' },
  { id: 'piece-write', run: () => write(), enabled: has, why: 'now' },
  { id: 'piece-another', run: () => void again('another'), enabled: has, why: 'now' },
  { id: 'piece-longer', run: () => void again('longer'), enabled: has, why: 'now' },
  { id: 'piece-shorter', run: () => void again('shorter'), enabled: has, why: 'now' },
  { id: 'piece-hear', run: () => hear(), enabled: () => Boolean(about.selected?.piece.said?.length), why: 'now' },
  { id: 'piece-here', run: beginHere, enabled: () => about.selected?.piece.kind === 'chapter', why: 'now' },
  { id: 'piece-clip', run: () => void clip(), enabled: () => about.selected?.piece.kind === 'passage' && project.hasFilm, why: 'now' },
  { id: 'piece-off', run: () => void about.takeOff(), enabled: has, why: 'now' },
  { id: 'film-ask', run: () => asking.value?.focus() },
  { id: 'about-begin', run: () => void begin(), enabled: () => about.view?.has_words ?? false, why: 'now' },
])
</script>

<template>
  <section ref="list" class="pieces" :aria-label="t('aboutFilm.film')" data-about-film>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <p v-if="told" class="told" role="status">{{ told }}</p>
    <NoticeLine v-for="entry in about.left" :key="entry.id" :text="t('aboutFilm.left', { why: entry.why, words: entry.piece.text })" data-left>
      <v-btn size="small" color="primary" variant="flat" data-put-left @click="about.putLeft(entry)">{{ t('aboutFilm.putLeft') }}</v-btn>
      <v-btn size="small" variant="text" @click="about.giveUp(entry)">{{ t('transcribe.left.leave') }}</v-btn>
    </NoticeLine>
    <p v-if="!about.view" class="soft" role="status">{{ t('workspace.loading') }}</p>
    <div v-else-if="!ordered.length" class="none">
      <p>{{ t(about.view.has_words ? 'aboutFilm.none' : 'aboutFilm.silent') }}</p>
      <v-btn v-if="about.view.has_words" color="primary" variant="flat" data-about-begin @click="begin">{{ t('aboutFilm.begin') }} <KeyCap command="about-begin" /></v-btn>
    </div>
    <div v-for="{ kind, pieces } in sections" v-else :key="kind" class="kind">
      <h2>{{ t(`aboutFilm.kind.${kind}`) }}</h2>
      <ul>
        <PieceRow
          v-for="{ id, piece } in pieces"
          :key="id"
          :piece="piece"
          :is-selected="id === about.selectedId"
          :writing="writing && id === about.selectedId"
          :at-ms="begins(piece)"
          :data-piece="piece.kind"
          @choose="about.selectedId = id"
          @write="write(id)"
          @written="written(id, $event)"
          @leave="leave"
          @hear="(about.selectedId = id), hear(id)"
          @again="again"
          @clip="clip"
          @off="about.takeOff()"
        />
      </ul>
    </div>
    <p v-if="ordered.length" class="anew"><v-btn size="small" variant="text" data-about-anew @click="begin">{{ t('aboutFilm.anew') }} <KeyCap command="about-begin" /></v-btn> <span class="soft">{{ t('aboutFilm.anewTold') }}</span></p>
    <BesideFilm><AskFilm v-if="about.view?.has_words" ref="asking" /></BesideFilm>
  </section>
</template>

<style scoped>
.pieces {
  flex: 1;
  overflow-y: auto;
  padding: 2px 26px 60px;
}
.kind {
  display: grid;
  grid-template-columns: 120px minmax(0, 1fr);
  gap: 4px 18px;
  border-top: 1px solid var(--line);
}
h2 {
  margin: 0;
  padding-top: 9px;
  font-size: 13px;
  font-weight: 600;
  color: var(--soft);
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
.none {
  display: grid;
  justify-items: start;
  gap: 10px;
  max-width: 620px;
  padding: 18px 0;
}
.none p,
.told {
  margin: 0;
}
.told {
  padding-bottom: 8px;
  color: var(--reed);
}
.problem {
  color: var(--heather);
}
</style>
