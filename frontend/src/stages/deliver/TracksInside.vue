<script setup lang="ts">
/** A film with caption tracks inside, which players show or hide: which tracks, which is shown at once, and what came of it. */
import { computed, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import { answered, client, named } from '@/api/client'
import ChoiceRow from '@/kit/ChoiceRow.vue'
import { keysWaitFor, useCommands } from '@/kit/commands/commands'
import KeyCap from '@/kit/commands/KeyCap.vue'
import { languageName } from '@/kit/i18n'
import JobLine from '@/kit/JobLine.vue'
import { fileSize } from '@/kit/time'
import { useProject } from '@/session/projectStore'
import { newId, useTrack, useTracks } from '@/session/tracksStore'

const CONTAINERS = ['mp4', 'mkv', 'webm'] as const

const { t } = useI18n()
const project = useProject()
const track = useTrack()
const tracks = useTracks()

const container = ref<(typeof CONTAINERS)[number]>('mp4')
const containers = computed(() => CONTAINERS.map((value) => ({ value, title: t(`deliver.inside.container.${value}`) })))
const listed = computed(() => project.project?.tracks ?? [])
const nameOf = (language: string, name = '') => [languageName(language), name].filter(Boolean).join(', ')
/** Ids of tracks that are left out, so that a new one is in. */
const left = ref(new Set<string>())
const forced = ref(new Set<string>())
const shown = ref<string | null>(track.id || null)
const chosen = computed(() => listed.value.filter(({ id }) => !left.value.has(id)).map(({ id }) => id))
watch(chosen, (now) => {
  if (shown.value && !now.includes(shown.value)) shown.value = null
})
function changed(ids: Set<string>, id: string, wanted: boolean) {
  const now = new Set(ids)
  if (wanted) now.add(id)
  else now.delete(id)
  return now
}
const isChecked = (event: Event) => (event.target as HTMLInputElement).checked

const jobs = computed(() => project.jobs.filter((job) => job.kind === 'tracks-inside').slice(0, 4))
const active = computed(() => jobs.value.some(({ state }) => state === 'waiting' || state === 'running'))
const problem = ref('')
const ready = () => chosen.value.length > 0 && !active.value
async function make() {
  problem.value = ''
  const params = { path: { project_id: project.project!.id } }
  const body = { container: container.value, tracks: chosen.value, default: shown.value, forced: chosen.value.filter((id) => forced.value.has(id)) }
  try {
    // What was just written is in it too.
    await keysWaitFor(tracks.settled())
    await project.askFor(answered(client.POST('/api/projects/{project_id}/film-with-tracks', { params, ...named(newId()), body })))
  } catch (refused) {
    problem.value = (refused as Error).message
  }
}
useCommands([{ id: 'tracks-inside', run: () => void make(), enabled: ready, why: 'now' }])
</script>

<template>
  <section :aria-label="t('deliver.inside.title')" class="inside">
    <h2>{{ t('deliver.inside.title') }} <KeyCap command="tracks-inside" /></h2>
    <p class="soft">{{ t('deliver.inside.about') }}</p>
    <ChoiceRow v-model="container" :label="t('deliver.inside.containerLabel')" :options="containers" />
    <p class="soft">{{ t(`deliver.inside.holds.${container}`) }}</p>
    <table>
      <thead>
        <tr>
          <th scope="col">{{ t('deliver.inside.track') }}</th>
          <th scope="col">{{ t('deliver.inside.default') }}</th>
          <th scope="col">{{ t('deliver.inside.forced') }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="{ id, language, name } in listed" :key="id" :data-inside="id">
          <td><label><input type="checkbox" :checked="!left.has(id)" @change="left = changed(left, id, !isChecked($event))" /> {{ nameOf(language, name) }}</label></td>
          <td><input v-model="shown" type="radio" name="shown" :value="id" :disabled="left.has(id)" :aria-label="t('deliver.inside.defaultOf', { track: nameOf(language, name) })" /></td>
          <td><input type="checkbox" :checked="forced.has(id)" :disabled="left.has(id)" :aria-label="t('deliver.inside.forcedOf', { track: nameOf(language, name) })" @change="forced = changed(forced, id, isChecked($event))" /></td>
        </tr>
      </tbody>
    </table>
    <p><v-btn color="primary" variant="flat" :disabled="!ready()" data-make-inside @click="make">{{ t('deliver.inside.make', chosen.length) }}</v-btn></p>
    <p v-if="problem" class="errors" role="alert">{{ problem }}</p>
    <JobLine v-for="job in jobs" :key="job.id" :job="job" :of="String(job.parameters.container).toUpperCase()">
      <template v-if="job.state === 'done'" #default>
        <v-btn color="primary" :href="`/api/jobs/${job.id}/file`" download data-download-inside>{{ t('deliver.download', { size: fileSize(Number(job.result?.size_bytes ?? 0)) }) }}</v-btn>
      </template>
    </JobLine>
  </section>
</template>

<style scoped>
.inside {
  display: grid;
  gap: 10px;
}
h2,
p {
  margin: 0;
}
h2 {
  font-size: 15px;
}
table {
  border-collapse: collapse;
  justify-self: start;
}
th {
  font-weight: 400;
  color: var(--soft);
  text-align: left;
}
th,
td {
  padding: 5px 24px 5px 0;
  border-bottom: 1px solid var(--line);
}
.errors {
  color: var(--heather);
}
</style>
