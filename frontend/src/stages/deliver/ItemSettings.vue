<script setup lang="ts">
/** How something on a packing list is made: of which tracks, in which form, under which name. */
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'

import type { FormatView } from '@/api/client'
import KeyCap from '@/kit/commands/KeyCap.vue'
import { fileSize } from '@/kit/time'
import PanelHead from '@/kit/PanelHead.vue'
import { type ItemStanding, type Thing, usePacking } from '@/session/packingStore'
import { useProject } from '@/session/projectStore'
import { useTrack } from '@/session/tracksStore'
import { useVersions } from '@/session/versionsStore'
import { useLosses } from '@/stages/deliver/losses'
import FilmDials from '@/stages/deliver/FilmDials.vue'
import PassageDial from '@/stages/deliver/PassageDial.vue'
import { usePictureSizes } from '@/stages/deliver/pictureSizes'
import RateDial from '@/stages/deliver/RateDial.vue'
import SendTo from '@/stages/deliver/SendTo.vue'
import StlHead from '@/stages/deliver/StlHead.vue'
import { tracksOf, useThings } from '@/stages/deliver/things'

const CONTAINERS = ['mp4', 'mkv', 'webm'] as const
const FORMS = ['prores', 'vp9', 'png'] as const
const ABOUTS = ['text', 'chapters', 'json'] as const
const PAPERS = ['docx', 'text', 'html', 'words'] as const

const props = defineProps<{ one: ItemStanding; formats: readonly FormatView[] }>()
defineEmits<{ look: []; prove: [] }>()
const { t } = useI18n()
const packing = usePacking()
const project = useProject()
const track = useTrack()
const versions = useVersions()
const lost = useLosses()
const { trackName } = useThings()

const thing = computed(() => props.one.item.thing)
const heading = ref(false)
const panel = ref<HTMLElement | null>(null)
defineExpose({ focus: () => panel.value?.querySelector<HTMLElement>('select, input')?.focus() })

const chosen = (event: Event) => (event.target as HTMLSelectElement | HTMLInputElement).value
const ticked = (event: Event) => (event.target as HTMLInputElement).checked
const put = (values: object) => packing.put({ [props.one.id]: { ...props.one.item, ...values } })
/** Makes something of the thing otherwise; what it is stays. */
const set = (values: object) => put({ thing: { ...thing.value, ...values } as Thing })

const tracks = computed(() => project.project?.tracks ?? [])
/** One that is gone stays in sight until another is chosen. */
const listed = computed(() => [...new Set([...tracks.value.map(({ id }) => id), ...tracksOf(thing.value)])])
/** Versions are those of the track that is worked on. */
const pictures = computed(() => (('track' in thing.value && thing.value.track === track.id) ? versions.versions : []))
const sizes = usePictureSizes(() => ('version' in thing.value ? thing.value.version : null))
/** What hosts of films take. */
const forHosts = computed(() => thing.value.kind === 'burned' || thing.value.kind === 'inside' || (thing.value.kind === 'captions' && (thing.value.format === 'webvtt' || props.one.item.destination)))
const isFilm = computed(() => ['burned', 'alone', 'inside'].includes(thing.value.kind))

function toggleTrack(id: string, wanted: boolean) {
  if (thing.value.kind === 'inside') {
    const others = thing.value.tracks.filter((one) => one.track !== id)
    const now = wanted ? [...others, { track: id, is_default: false, is_forced: false }] : others
    if (now.length) void set({ tracks: ordered(now, (one) => one.track) })
  } else if (thing.value.kind === 'timeline' || thing.value.kind === 'playlist') {
    const others = thing.value.tracks.filter((one) => one !== id)
    const now = wanted ? [...others, id] : others
    if (now.length) void set({ tracks: ordered(now, (one) => one) })
  }
}
const ordered = <T,>(all: readonly T[], id: (one: T) => string) => [...all].sort((a, b) => listed.value.indexOf(id(a)) - listed.value.indexOf(id(b)))
function setInside(id: string, values: { is_default?: boolean; is_forced?: boolean }) {
  if (thing.value.kind !== 'inside') return
  const one = values.is_default
  void set({ tracks: thing.value.tracks.map((each) => (each.track === id ? { ...each, ...values } : one ? { ...each, is_default: false } : each)) })
}
/** The newest proof of this film, once it is there. */
const proof = computed(() => project.jobs.find(({ kind, parameters }) => kind === 'burn' && parameters.proof_of === props.one.id))
</script>

<template>
  <section ref="panel" class="settings" :aria-label="t('packing.settings')" data-settings>
    <PanelHead :title="t(thing.kind === 'captions' ? 'packing.kind.captions' : thing.kind === 'timeline' ? `packing.kind.${thing.form}` : `packing.kind.${thing.kind}`)" @close="packing.selectedId = null" />
    <StlHead v-if="heading" @close="heading = false" />
    <template v-else>
      <label v-if="'track' in thing" class="dial">
        <span>{{ t('packing.dial.track') }}</span>
        <select :value="thing.track" data-dial="track" @change="set({ track: chosen($event), ...('version' in thing ? { version: null } : {}) })">
          <option v-for="id in listed" :key="id" :value="id">{{ trackName(id) }}</option>
        </select>
      </label>
      <template v-if="thing.kind === 'captions'">
        <label class="dial">
          <span>{{ t('packing.dial.format') }}</span>
          <select :value="thing.format" data-dial="format" @change="set({ format: chosen($event) })">
            <option v-for="format in formats" :key="format.name" :value="format.name">{{ format.title }}</option>
          </select>
        </label>
        <label class="tick"><input type="checkbox" :checked="thing.flatten" @change="set({ flatten: ticked($event) })" /> {{ t('deliver.flatten') }}</label>
        <p v-if="thing.format.startsWith('stl') && thing.track === track.id"><v-btn size="small" data-item-head @click="heading = true">{{ t('stl.button') }}</v-btn></p>
      </template>
      <template v-if="thing.kind === 'burned' || thing.kind === 'alone'">
        <label v-if="listed.length > 1" class="dial">
          <span>{{ t('deliver.above') }}</span>
          <select :value="thing.above ?? ''" data-dial="above" @change="set({ above: chosen($event) || null })">
            <option value="">{{ t('deliver.noneAbove') }}</option>
            <option v-for="id in listed.filter((other) => 'track' in thing && other !== thing.track)" :key="id" :value="id">{{ trackName(id) }}</option>
          </select>
        </label>
        <label v-if="pictures.length" class="dial">
          <span>{{ t('deliver.picture') }}</span>
          <select :value="thing.version ?? ''" data-dial="version" @change="set({ version: chosen($event) || null })">
            <option value="">{{ t('version.film') }}</option>
            <option v-for="{ id, version } in pictures" :key="id" :value="id">{{ version.name }}</option>
          </select>
        </label>
      </template>
      <FilmDials v-if="thing.kind === 'burned'" :model-value="thing.encoding" :version="thing.version" @update:model-value="set({ encoding: $event })" />
      <template v-if="thing.kind === 'alone'">
        <label class="dial">
          <span>{{ t('packing.dial.form') }}</span>
          <select :value="thing.form" data-dial="form" @change="set({ form: chosen($event) })">
            <option v-for="form in FORMS" :key="form" :value="form">{{ t(`packing.form.${form}`) }}</option>
          </select>
        </label>
        <label class="dial">
          <span>{{ t('deliver.sizeLabel') }}</span>
          <select :value="thing.height ?? ''" data-dial="height" @change="set({ height: Number(chosen($event)) || null })">
            <option v-for="size in sizes" :key="size.title" :value="size.value ?? ''">{{ size.title }}</option>
          </select>
        </label>
        <RateDial :model-value="thing.rate ?? null" @update:model-value="set({ rate: $event })" />
        <PassageDial :model-value="thing.passage ?? null" @update:model-value="set({ passage: $event })" />
      </template>
      <template v-if="thing.kind === 'inside'">
        <label class="dial">
          <span>{{ t('deliver.inside.containerLabel') }}</span>
          <select :value="thing.container" data-dial="container" @change="set({ container: chosen($event) })">
            <option v-for="container in CONTAINERS" :key="container" :value="container">{{ t(`deliver.inside.container.${container}`) }}</option>
          </select>
        </label>
        <p class="soft">{{ t(`deliver.inside.holds.${thing.container ?? 'mp4'}`) }}</p>
      </template>
      <template v-if="thing.kind === 'timeline'">
        <RateDial :model-value="thing.rate ?? null" @update:model-value="set({ rate: $event })" />
        <label class="dial">
          <span>{{ t('packing.dial.start') }}</span>
          <input class="time" type="text" :value="thing.start" placeholder="01:00:00:00" maxlength="20" data-dial="start" @change="set({ start: chosen($event).trim() || '00:00:00:00' })" />
        </label>
        <label class="tick"><input type="checkbox" :checked="thing.findings" @change="set({ findings: ticked($event) })" /> {{ t('packing.findings') }}</label>
      </template>
      <label v-if="thing.kind === 'playlist'" class="dial">
        <span>{{ t('packing.dial.segment') }}</span>
        <input type="number" min="1" max="60" :value="thing.segment_seconds" data-dial="segment" @change="set({ segment_seconds: Math.min(Math.max(Number(chosen($event)) || 6, 1), 60) })" />
      </label>
      <label v-if="thing.kind === 'transcript'" class="dial">
        <span>{{ t('packing.dial.form') }}</span>
        <select :value="thing.form" data-dial="paper" @change="set({ form: chosen($event) })">
          <option v-for="form in PAPERS" :key="form" :value="form">{{ t(`packing.transcript.${form}`) }}</option>
        </select>
      </label>
      <label v-if="thing.kind === 'about'" class="dial">
        <span>{{ t('packing.dial.form') }}</span>
        <select :value="thing.form" data-dial="about" @change="set({ form: chosen($event) })">
          <option v-for="form in ABOUTS" :key="form" :value="form">{{ t(`packing.aboutForm.${form}`) }}</option>
        </select>
      </label>
      <table v-if="thing.kind === 'inside' || thing.kind === 'timeline' || thing.kind === 'playlist'">
        <thead>
          <tr>
            <th scope="col">{{ t('deliver.inside.track') }}</th>
            <template v-if="thing.kind === 'inside'">
              <th scope="col">{{ t('deliver.inside.default') }}</th>
              <th scope="col">{{ t('deliver.inside.forced') }}</th>
            </template>
          </tr>
        </thead>
        <tbody>
          <tr v-for="id in listed" :key="id">
            <td><label><input type="checkbox" :checked="tracksOf(thing).includes(id)" :data-track-in="id" @change="toggleTrack(id, ticked($event))" /> {{ trackName(id) }}</label></td>
            <template v-if="thing.kind === 'inside'">
              <td><input type="checkbox" :checked="thing.tracks.some((one) => one.track === id && one.is_default)" :disabled="!tracksOf(thing).includes(id)" :aria-label="t('deliver.inside.defaultOf', { track: trackName(id) })" @change="setInside(id, { is_default: ticked($event) })" /></td>
              <td><input type="checkbox" :checked="thing.tracks.some((one) => one.track === id && one.is_forced)" :disabled="!tracksOf(thing).includes(id)" :aria-label="t('deliver.inside.forcedOf', { track: trackName(id) })" @change="setInside(id, { is_forced: ticked($event) })" /></td>
            </template>
          </tr>
        </tbody>
      </table>
      <label class="dial">
        <span>{{ t('packing.dial.name') }}</span>
        <input class="time" type="text" :value="one.item.name" :placeholder="packing.shown?.pattern" maxlength="300" data-dial="name" @change="put({ name: chosen($event).trim() })" />
      </label>
      <SendTo v-if="forHosts" :model-value="one.item.destination ?? null" :is-film="isFilm" @update:model-value="put({ destination: $event })" />
      <p v-if="one.losses.length" class="loses" data-losses>{{ lost(one.losses) }}</p>
      <p class="acts">
        <v-btn v-if="!isFilm" size="small" :disabled="Boolean(one.missing)" data-look @click="$emit('look')">{{ t('packing.look') }} <KeyCap command="item-look" /></v-btn>
        <v-btn v-if="thing.kind === 'burned'" size="small" :disabled="Boolean(one.missing)" data-prove @click="$emit('prove')">{{ t('packing.prove') }} <KeyCap command="item-proof" /></v-btn>
        <v-btn v-if="one.sent?.page" size="small" :href="one.sent.page" target="_blank" rel="noreferrer" data-page-there>{{ t('packing.pageThere') }} <KeyCap command="item-there" /></v-btn>
        <v-btn v-if="one.made" size="small" :href="packing.address(one.id, 'file')" download data-save>{{ t('packing.save') }} <KeyCap command="item-save" /></v-btn>
        <v-btn size="small" variant="text" data-off @click="packing.takeOff()">{{ t('packing.off') }} <KeyCap command="item-off" /></v-btn>
      </p>
      <div v-if="proof" class="proof" data-proof :data-state="proof.state">
        <p v-if="proof.state === 'running' || proof.state === 'waiting'" class="soft">{{ t('packing.proofMaking', { percent: Math.round(proof.progress * 100) }) }}</p>
        <template v-else-if="proof.state === 'done'">
          <p class="soft">{{ t('packing.proof', { size: fileSize(Number(proof.result?.size_bytes ?? 0)) }) }} <a :href="`/api/jobs/${proof.id}/file`" download>{{ t('packing.save') }}</a></p>
          <video v-if="thing.kind === 'burned' && thing.encoding.codec !== 'prores'" controls :src="`/api/jobs/${proof.id}/file`" :aria-label="t('packing.proofOf', { name: one.name })" />
        </template>
      </div>
    </template>
  </section>
</template>

<style scoped>
.settings {
  display: grid;
  gap: 8px;
  padding: 10px 16px 14px;
  font-size: 13px;
}
p {
  margin: 0;
}
table {
  border-collapse: collapse;
}
th {
  font-weight: 400;
  color: var(--soft);
  text-align: left;
}
th,
td {
  padding: 4px 12px 4px 0;
  border-bottom: 1px solid var(--line);
}
.loses {
  color: var(--straw);
}
.loses::first-letter {
  text-transform: uppercase;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  padding-top: 4px;
}
video {
  width: 100%;
  max-height: 34vh;
  background: #000;
  border-radius: 4px;
}
.proof {
  display: grid;
  gap: 6px;
}
</style>
