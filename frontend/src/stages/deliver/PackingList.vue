<script setup lang="ts">
/** A packing list: what is on it, what each thing leaves out, how it stands; and how it is made and handed over. */
import { computed, nextTick, onMounted, ref, shallowRef, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import { answered, client, type FormatView } from '@/api/client'
import BesideFilm from '@/kit/BesideFilm.vue'
import { type CommandId, DECLARED } from '@/kit/commands/catalogue'
import { keysWaitFor, useCommands, useRestingKeys } from '@/kit/commands/commands'
import KeyCap from '@/kit/commands/KeyCap.vue'
import JobLine from '@/kit/JobLine.vue'
import RawText from '@/kit/RawText.vue'
import { fileSize } from '@/kit/time'
import { useHistory } from '@/session/historyStore'
import { useHosts } from '@/session/hostsStore'
import { type ItemStanding, usePacking } from '@/session/packingStore'
import { useProject } from '@/session/projectStore'
import { useTrack } from '@/session/tracksStore'
import AddItem from '@/stages/deliver/AddItem.vue'
import ItemSettings from '@/stages/deliver/ItemSettings.vue'
import ListHead from '@/stages/deliver/ListHead.vue'
import OtherFilms from '@/stages/deliver/OtherFilms.vue'
import PackingRow from '@/stages/deliver/PackingRow.vue'
import { useThings } from '@/stages/deliver/things'
import { useNotice } from '@/workspace/useNotice'

const { t } = useI18n()
const packing = usePacking()
const project = useProject()
const history = useHistory()
const track = useTrack()
const notice = useNotice()
const { trackName } = useThings()

type Beside = 'settings' | 'add' | 'raw' | 'others'
const beside = ref<Beside>('settings')
const settings = ref<InstanceType<typeof ItemSettings> | null>(null)
const problem = ref('')
const raw = shallowRef<{ title: string; bytes: ArrayBuffer } | null>(null)

const formats = shallowRef<FormatView[]>([])
// Who is asked names what is sent.
const hosts = useHosts()
onMounted(() => void hosts.read().catch(() => undefined))
watch(
  () => track.id,
  async (track_id) => {
    // What is offered must not come in above what the arrows have reached.
    if (track_id) await keysWaitFor(answered(client.GET('/api/tracks/{track_id}/formats', { params: { path: { track_id } } })).then((found) => (formats.value = found)))
  },
  { immediate: true },
)

const items = computed(() => packing.view?.items ?? [])
const included = computed(() => items.value.filter(({ item }) => !item.left_out))
/** What a press on Make makes: all that can be, and is not as it would come out. */
const toMake = computed(() => included.value.filter(({ missing, made, changes, is_sent }) => !missing && (!made || changes.length > 0 || !is_sent)))
const made = computed(() => included.value.filter((one) => one.made))
const bytes = computed(() => made.value.reduce((sum, one) => sum + (one.made?.size_bytes ?? 0), 0))
/** What is to be known before it goes out, in sentences. */
const before = computed(() =>
  (packing.view?.tracks ?? []).flatMap(({ track: id, errors, drafts }) => [
    ...(errors ? [t('packing.errors', { track: trackName(id), n: errors }, errors)] : []),
    ...(drafts ? [t('packing.drafts', { track: trackName(id), n: drafts }, drafts)] : []),
  ]),
)
/** Why things could not be made, by their ids, as the last making said. */
const failed = computed(() => (packing.isBeingMade ? {} : ((packing.job?.result?.failed ?? {}) as Record<string, { code: string }>)))
function turn({ id, made: was }: ItemStanding) {
  const job = packing.isBeingMade ? packing.job! : null
  if (!job || !(job.parameters.items as string[]).includes(id)) return null
  if (job.step === id && job.state === 'running') return 'now'
  // What the job has made already waits no more.
  return was && was.made_ms >= job.created_ms ? null : 'waits'
}

async function attempt(what: () => Promise<unknown>) {
  problem.value = ''
  try {
    // What was just written, or styled, goes along.
    await history.stored()
    await keysWaitFor(what())
  } catch (refused) {
    problem.value = (refused as Error).message
  }
}
const make = () => attempt(() => packing.make())
const makeOne = () => attempt(() => packing.make([packing.selectedId!]))
const prove = () => attempt(() => packing.prove(packing.selectedId!))
async function look() {
  const { id, name } = packing.selected!
  await attempt(async () => {
    const params = { path: { project_id: project.project!.id, delivery_id: packing.shownId!, item_id: id } }
    const read = await answered(client.GET('/api/projects/{project_id}/deliveries/{delivery_id}/items/{item_id}/text', { params, parseAs: 'arrayBuffer' }))
    raw.value = { title: name, bytes: read as unknown as ArrayBuffer }
    beside.value = 'raw'
  })
}
/** Has the browser keep a file. */
function save(address: string) {
  const link = document.createElement('a')
  link.href = address
  link.download = ''
  link.click()
}
const isFilm = computed(() => ['burned', 'alone', 'inside'].includes(packing.selected?.item.thing.kind ?? ''))
const isBurned = computed(() => packing.selected?.item.thing.kind === 'burned')

const list = ref<HTMLElement | null>(null)
function step(by: number) {
  const at = items.value.findIndex(({ id }) => id === packing.selectedId)
  const next = items.value[Math.min(Math.max(at + by, 0), items.value.length - 1)]
  if (next) packing.selectedId = next.id
  beside.value = 'settings'
  void nextTick(() => list.value?.querySelector('[aria-current=true]')?.scrollIntoView({ block: 'nearest' }))
}
/** Moves what is selected one place up or down. */
function move(by: number) {
  const at = items.value.findIndex(({ id }) => id === packing.selectedId)
  const [one, other] = [items.value[at], items.value[at + by]]
  if (!one || !other) return
  const beyond = items.value[at + 2 * by]?.item.place ?? (other.item.place ?? 0) + by
  const place = ((other.item.place ?? 0) + beyond) / 2
  packing.view = { ...packing.view!, items: items.value.toSpliced(at, 1).toSpliced(at + by, 0, one) }
  void packing.put({ [one.id]: { ...one.item, place } })
}
function inOrOut(id = packing.selectedId) {
  const one = items.value.find((each) => each.id === id)
  if (one) void packing.put({ [one.id]: { ...one.item, left_out: !one.item.left_out } })
}
function added() {
  beside.value = 'settings'
  void nextTick(() => list.value?.querySelector('[aria-current=true]')?.scrollIntoView({ block: 'nearest' }))
}
/** A key that does nothing to the list just now must not reach a caption. */
const OF_CAPTIONS: ReadonlySet<CommandId> = new Set([...DECLARED.values()].filter(({ area }) => area === 'captions' || area === 'styling').map(({ id }) => id))
useRestingKeys((id) => OF_CAPTIONS.has(id), () => true)
const has = () => packing.selected !== undefined
useCommands([
  { id: 'item-next', run: () => step(1), enabled: () => items.value.length > 0, why: 'now' },
  { id: 'item-before', run: () => step(-1), enabled: () => items.value.length > 0, why: 'now' },
  { id: 'item-later', run: () => move(1), enabled: has, why: 'now' },
  { id: 'item-sooner', run: () => move(-1), enabled: has, why: 'now' },
  { id: 'item-in-out', run: () => inOrOut(), enabled: has, why: 'now' },
  { id: 'item-settings', run: () => ((beside.value = 'settings'), void nextTick(() => settings.value?.focus())), enabled: has, why: 'now' },
  { id: 'item-add', run: () => (beside.value = 'add'), enabled: () => packing.view !== null, why: 'now' },
  { id: 'item-off', run: () => void packing.takeOff(), enabled: has, why: 'now' },
  { id: 'item-look', run: () => void look(), enabled: () => has() && !isFilm.value && !packing.selected!.missing, why: 'now' },
  { id: 'item-proof', run: () => void prove(), enabled: () => isBurned.value && !packing.selected!.missing, why: 'now' },
  { id: 'item-make', run: () => void makeOne(), enabled: () => has() && !packing.selected!.missing && !packing.isBeingMade, why: 'now' },
  { id: 'item-save', run: () => save(packing.address(packing.selectedId!, 'file')), enabled: () => Boolean(packing.selected?.made), why: 'now' },
  { id: 'item-there', run: () => window.open(packing.selected!.sent!.page, '_blank', 'noreferrer'), enabled: () => Boolean(packing.selected?.sent?.page), why: 'now' },
  { id: 'list-make', run: () => void make(), enabled: () => toMake.value.length > 0 && !packing.isBeingMade, why: 'now' },
  { id: 'list-save', run: () => save(packing.archive()), enabled: () => made.value.length > 0, why: 'now' },
  { id: 'list-others', run: () => (beside.value = 'others'), enabled: () => items.value.length > 0, why: 'now' },
])
</script>

<template>
  <section class="packing" :aria-label="t('packing.list')">
    <div class="scrolled">
      <ListHead />
      <p v-if="before.length" class="before" data-before>
        <b>{{ t('packing.before', before.length) }}</b> {{ before.join(' ') }}
        <router-link :to="{ name: 'check' }">{{ t('packing.seeThem') }}</router-link>
      </p>
      <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
      <p v-if="!packing.view" class="soft" role="status">{{ t('workspace.loading') }}</p>
      <div v-else-if="!items.length" class="none">
        <p>{{ t('packing.none') }}</p>
        <v-btn color="primary" variant="flat" data-add-first @click="beside = 'add'">{{ t('packing.add') }} <KeyCap command="item-add" /></v-btn>
      </div>
      <ul v-else ref="list">
        <PackingRow
          v-for="one in items"
          :key="one.id"
          :one="one"
          :formats="formats"
          :turn="turn(one)"
          :failed="failed[one.id] ?? null"
          @choose="(packing.selectedId = one.id), (beside = 'settings')"
          @in-or-out="inOrOut(one.id)"
        />
      </ul>
      <p v-if="items.length" class="more">
        <v-btn size="small" data-add @click="beside = 'add'">{{ t('packing.add') }} <KeyCap command="item-add" /></v-btn>
        <v-btn size="small" data-others @click="beside = 'others'">{{ t('packing.others') }} <KeyCap command="list-others" /></v-btn>
      </p>
      <JobLine v-if="packing.job && (packing.isBeingMade || packing.job.state === 'failed' || packing.job.state === 'cancelled')" :job="packing.job" class="job" />
    </div>
    <footer>
      <v-btn color="primary" variant="flat" height="38" :disabled="!toMake.length || packing.isBeingMade" data-make @click="make">
        {{ packing.isBeingMade ? t('packing.making') : t('packing.make', toMake.length) }} <KeyCap command="list-make" />
      </v-btn>
      <v-btn height="38" :href="made.length ? packing.archive() : undefined" :disabled="!made.length" download data-zip>
        {{ made.length ? t('packing.zip', { size: fileSize(bytes) }) : t('packing.zipNone') }} <KeyCap command="list-save" />
      </v-btn>
      <span class="soft">{{ t('packing.nothingHalf') }}</span>
      <button v-if="notice.canBeAsked" type="button" class="link" data-notice @click="notice.ask">{{ t('packing.tellMe') }}</button>
    </footer>
    <BesideFilm>
      <AddItem v-if="beside === 'add' && formats.length" :formats="formats" @close="beside = 'settings'" @added="added" />
      <OtherFilms v-else-if="beside === 'others'" @close="beside = 'settings'" />
      <RawText v-else-if="beside === 'raw' && raw" :title="raw.title" :bytes="raw.bytes" @close="beside = 'settings'" />
      <ItemSettings v-else-if="packing.selected" :key="packing.selected.id" ref="settings" :one="packing.selected" :formats="formats" @look="look" @prove="prove" />
    </BesideFilm>
  </section>
</template>

<style scoped>
.packing {
  display: flex;
  flex: 1;
  flex-direction: column;
  min-height: 0;
}
.scrolled {
  flex: 1;
  overflow-y: auto;
  padding: 2px 26px 20px;
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
  border-top: 1px solid var(--line);
}
.before {
  margin: 0 0 12px;
  padding: 8px 12px;
  background: color-mix(in srgb, var(--straw-bright) 10%, var(--paper));
  border-radius: 6px;
}
.before b {
  color: var(--straw);
}
.before a {
  margin-left: 6px;
}
.none {
  display: grid;
  justify-items: start;
  gap: 10px;
  padding: 20px 0;
}
.none p,
.more {
  margin: 0;
}
.more {
  display: flex;
  gap: 8px;
  padding: 12px 0;
}
.job {
  max-width: 560px;
}
.problem {
  color: var(--heather);
}
footer {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 14px;
  padding: 10px 26px;
  background: var(--sand-deep);
  border-top: 1px solid var(--line);
}
</style>
