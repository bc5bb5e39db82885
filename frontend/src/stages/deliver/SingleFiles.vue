<script setup lang="ts">
/** Files of the current track one by one, to be saved at once; and films made of it. */
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import { answered, client, type FormatView, type JobView, type Schemas } from '@/api/client'
import { useCommands } from '@/kit/commands/commands'
import KeyCap from '@/kit/commands/KeyCap.vue'
import { useHistory } from '@/session/historyStore'
import { useProject } from '@/session/projectStore'
import { useTrack } from '@/session/tracksStore'
import { useVersions } from '@/session/versionsStore'
import { useLosses } from '@/stages/deliver/losses'
import { usePictureSizes } from '@/stages/deliver/pictureSizes'
import { useReport } from '@/stages/deliver/report'
import { AS_THE_FILM } from '@/stages/deliver/things'
import FilmDials from '@/stages/deliver/FilmDials.vue'
import BesideFilm from '@/kit/BesideFilm.vue'
import JobLine from '@/kit/JobLine.vue'
import StlHead from '@/stages/deliver/StlHead.vue'
import TracksInside from '@/stages/deliver/TracksInside.vue'
import RawText from '@/kit/RawText.vue'
import { languageName } from '@/kit/i18n'
import { fileSize } from '@/kit/time'

const { t } = useI18n()
const project = useProject()
const history = useHistory()
const track = useTrack()

const formats = shallowRef<FormatView[]>([])
const encoding = ref<Schemas['Encoding']>(AS_THE_FILM)
const problem = ref('')
/** Where the client wants no overlap, the files have none. */
const flatten = ref(!(track.spec?.overlap_allowed ?? false))

const lost = useLosses()
/** Formats that keep more of what this one loses. */
function keepers(format: FormatView): string[] {
  const losing = new Set(format.losses.map((loss) => loss.what))
  return formats.value
    .filter((other) => other.name !== 'json' && losing.size && other.losses.every((loss) => !losing.has(loss.what)))
    .slice(0, 3)
    .map((other) => other.title)
}

const versions = useVersions()
onMounted(() => void versions.read().catch(() => undefined))
/** Id of the version that is burned; null for the film's own picture. */
const version = ref<string | null>(null)
const pictures = computed(() => [
  { value: null, title: t('version.film') },
  ...versions.versions.map(({ id, version: { name } }) => ({ value: id, title: name })),
])
watch(pictures, (now) => {
  if (!now.some(({ value }) => value === version.value)) version.value = null
})
/** Id of a track whose captions are drawn above these; null for none. */
const above = ref<string | null>(null)
const others = computed(() => [
  { value: null, title: t('deliver.noneAbove') },
  ...(project.project?.tracks ?? []).filter(({ id }) => id !== track.id).map(({ id, name, language }) => ({ value: id, title: [languageName(language), name].filter(Boolean).join(', ') })),
])
watch(others, (now) => {
  if (!now.some(({ value }) => value === above.value)) above.value = null
})
const sizes = usePictureSizes(version)
watch(sizes, (now) => {
  if (!now.some(({ value }) => value === (encoding.value.height ?? null))) encoding.value = { ...encoding.value, height: null }
})
const burns = computed(() => project.jobs.filter(({ kind, parameters }) => kind === 'burn' && !parameters.proof_of).slice(0, 6))
const burning = computed(() => burns.value.some((job) => job.state === 'running' || job.state === 'waiting'))
/** What the spec asks for stands first. */
const listed = computed(() =>
  [...formats.value].sort((a, b) => Number(b.name === track.spec?.file_format) - Number(a.name === track.spec?.file_format)),
)
/** What tells burned films apart: the languages, where there are two, and the version. */
function burnedOf({ state, result }: JobView): string | undefined {
  const languages = String(result?.language ?? '').split('+')
  const told = [languages.length > 1 ? languages.map(languageName).join(', ') : '', result?.version].filter(Boolean)
  return state === 'done' && told.length ? told.join(' · ') : undefined
}
const ready = computed(() => track.loaded && track.captions.length > 0)

watch(
  () => track.captions,
  async () => {
    if (!track.id) return
    await track.settled()
    formats.value = await answered(
      client.GET('/api/tracks/{track_id}/formats', { params: { path: { track_id: track.id } } }),
    )
  },
  { immediate: true },
)

const { reportAddress, sent } = useReport()
const fileAddress = (format: FormatView) => `/api/tracks/${track.id}/file?format=${format.name}${flatten.value ? '&flatten=true' : ''}`

/** Whether the head of EBU STL files is being filled in. */
const heading = ref(false)

/** A file as it would be saved. */
const raw = shallowRef<{ title: string; bytes: ArrayBuffer } | null>(null)
/** Why there is no such file. */
const refused = ref('')
async function showRaw(format: FormatView) {
  await track.settled()
  refused.value = ''
  const query = { format: format.name, flatten: flatten.value }
  try {
    const bytes = await answered(
      client.GET('/api/tracks/{track_id}/file', { params: { path: { track_id: track.id }, query }, parseAs: 'arrayBuffer' }),
    )
    raw.value = { title: format.title, bytes: bytes as unknown as ArrayBuffer }
  } catch (error) {
    refused.value = (error as Error).message
  }
}

async function burn() {
  problem.value = ''
  try {
    // A look that was taken a moment ago is burned, and not the one before.
    await history.stored()
    await project.burn({ encoding: encoding.value, version: version.value, above: above.value })
  } catch (error) {
    problem.value = (error as Error).message
  }
}
/** Has the browser save the film that was burned last. */
function saveBurned() {
  const link = document.createElement('a')
  link.href = `/api/jobs/${burns.value.find(({ state }) => state === 'done')!.id}/file`
  link.download = ''
  link.click()
}
useCommands([
  { id: 'burn', run: () => void burn(), enabled: () => ready.value && !burning.value, why: 'now' },
  { id: 'burned-save', run: saveBurned, enabled: () => burns.value.some(({ state }) => state === 'done'), why: 'now' },
])
</script>

<template>
  <div class="single">
    <section>
      <p v-if="!track.loaded" class="soft" role="status">{{ t('workspace.loading') }}</p>
      <p v-else-if="!ready" class="soft">{{ t('deliver.nothing') }}</p>
      <p v-else-if="track.findings" class="errors">
        {{ t('deliver.errors', { count: track.findings, spec: track.spec?.name }, track.findings) }}
        <router-link :to="{ name: 'check' }">{{ t('deliver.toCheck') }}</router-link>
      </p>
      <p v-else class="clean">{{ t('deliver.clean', { spec: track.spec?.name }) }}</p>
    </section>

    <section :aria-label="t('deliver.files')">
      <h2>{{ t('deliver.files') }}</h2>
      <label class="flatten"><input v-model="flatten" type="checkbox"> {{ t('deliver.flatten') }}</label>
      <ul class="formats">
        <li v-for="format in listed" :key="format.name">
          <span class="name"><b>{{ format.title }}</b> <span class="time soft">{{ format.ending }}</span> <small v-if="format.name === track.spec?.file_format" class="asked">{{ t('deliver.asked') }}</small></span>
          <span class="loss" :class="{ none: !format.losses.length }">
            <template v-if="format.losses.length">
              {{ lost(format.losses) }}
              <small v-if="keepers(format).length" class="soft">{{ t('deliver.instead', { formats: keepers(format).join(', ') }) }}</small>
            </template>
            <template v-else>{{ t('deliver.keepsAll') }}</template>
          </span>
          <span class="acts">
            <v-btn size="small" variant="text" :disabled="!ready" :data-raw="format.name" @click="showRaw(format)">{{ t('deliver.raw') }}</v-btn>
            <v-btn v-if="format.name.startsWith('stl')" size="small" variant="text" :data-head="format.name" @click="heading = true">{{ t('stl.button') }}</v-btn>
            <v-btn
              :href="ready ? fileAddress(format) : undefined"
              :disabled="!ready"
              size="small"
              download
              :data-format="format.name"
              @click="sent(track.id, format.name)"
            >
              {{ t('deliver.save', { ending: format.ending }) }}
            </v-btn>
          </span>
        </li>
      </ul>
      <p v-if="refused" class="errors" role="alert" data-refused>{{ refused }}</p>
    </section>

    <section :aria-label="t('check.report')" class="report">
      <h2>{{ t('check.report') }}</h2>
      <p class="soft">{{ t('deliver.reportBody') }}</p>
      <v-btn size="small" :href="reportAddress(track.id)" target="_blank" :disabled="!ready" data-report>{{ t('check.openReport') }}</v-btn>
    </section>

    <section :aria-label="t('deliver.burn')">
      <h2>{{ t('deliver.burn') }} <KeyCap command="burn" /></h2>
      <p class="soft">{{ t('deliver.burnBody') }}</p>
      <div class="dials">
        <label v-if="others.length > 1" class="dial">
          <span>{{ t('deliver.above') }}</span>
          <select v-model="above" data-above>
            <option v-for="one in others" :key="one.title" :value="one.value">{{ one.title }}</option>
          </select>
        </label>
        <label v-if="pictures.length > 1" class="dial">
          <span>{{ t('deliver.picture') }}</span>
          <select v-model="version" data-picture>
            <option v-for="one in pictures" :key="one.title" :value="one.value">{{ one.title }}</option>
          </select>
        </label>
        <FilmDials v-model="encoding" :version="version" />
        <v-btn color="primary" variant="flat" height="40" :disabled="!ready || burning" data-burn @click="burn">
          {{ t('deliver.burnAct') }}
        </v-btn>
      </div>
      <p v-if="problem" class="errors" role="alert">{{ problem }}</p>
      <div class="burns">
        <JobLine v-for="job in burns" :key="job.id" :job="job" :of="burnedOf(job)">
          <template v-if="job.state === 'done'" #default>
            <v-btn color="primary" :href="`/api/jobs/${job.id}/file`" download data-download>
              {{ t('deliver.download', { size: fileSize(Number(job.result?.size_bytes ?? 0)) }) }}
            </v-btn>
            <KeyCap v-if="job === burns.find(({ state }) => state === 'done')" command="burned-save" />
          </template>
        </JobLine>
      </div>
    </section>
    <TracksInside />
    <BesideFilm v-if="heading">
      <StlHead @close="heading = false" />
    </BesideFilm>
    <BesideFilm v-else-if="raw">
      <RawText :title="raw.title" :bytes="raw.bytes" @close="raw = null" />
    </BesideFilm>
  </div>
</template>

<style scoped>
.asked {
  color: var(--reed);
}
.acts {
  display: flex;
  justify-content: flex-end;
  gap: 2px;
}
section {
  max-width: 700px;
  margin-bottom: 26px;
}
h2 {
  margin: 0 0 6px;
  font-size: 15px;
}
p {
  margin: 0 0 12px;
}
.errors {
  color: var(--heather);
}
.clean,
.loss.none {
  color: var(--reed);
}
.formats {
  margin: 0;
  padding: 0;
  list-style: none;
}
.formats li {
  display: grid;
  grid-template-columns: 214px 1fr auto;
  align-items: center;
  gap: 14px;
  padding: 6px 0;
  border-top: 1px solid var(--line);
}
.formats li:last-child {
  border-bottom: 1px solid var(--line);
}
.loss {
  font-size: 13px;
  color: var(--straw);
}
.flatten {
  display: flex;
  align-items: center;
  gap: 8px;
  margin-bottom: 10px;
}
.flatten input {
  width: 16px;
  height: 16px;
}
.loss small {
  display: block;
}
.dials {
  display: grid;
  grid-template-columns: minmax(0, 500px);
  gap: 8px;
  font-size: 13px;
}
.dials :deep(.dial > span:first-child) {
  min-width: 164px;
}
.dials .v-btn {
  justify-self: start;
  min-width: 140px;
  margin-top: 6px;
}
.burns {
  margin-top: 18px;
}
.burns > * {
  padding: 12px 0;
  border-top: 1px solid var(--line);
}
</style>
