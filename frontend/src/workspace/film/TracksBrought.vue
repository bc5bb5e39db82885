<script setup lang="ts">
/** The caption tracks that the film brings along, to be taken in as tracks of the project. */
import { computed, onMounted, ref, shallowRef } from 'vue'
import { useI18n } from 'vue-i18n'

import { answered, client, type Schemas } from '@/api/client'
import { keysWaitFor } from '@/kit/commands/commands'
import { languageName } from '@/kit/i18n'
import JobLine from '@/kit/JobLine.vue'
import { useProject } from '@/session/projectStore'

const { t } = useI18n()
const project = useProject()
const tracks = shallowRef<Schemas['TrackInsideView'][]>([])
const chosen = ref(new Set<number>())
const problem = ref('')
onMounted(async () => {
  const film_id = project.project!.film.id
  tracks.value = await answered(client.GET('/api/films/{film_id}/tracks-inside', { params: { path: { film_id } } })).catch(() => [])
  chosen.value = new Set(tracks.value.filter(({ format }) => format).map(({ stream }) => stream))
})
const job = computed(() => project.latest('tracks-out'))
const isBusy = computed(() => job.value?.state === 'waiting' || job.value?.state === 'running')
const nameOf = (track: Schemas['TrackInsideView']) => [track.language ? languageName(track.language) : t('film.noLanguage'), track.title].filter(Boolean).join(', ')

function choose(stream: number, wanted: boolean) {
  const now = new Set(chosen.value)
  if (wanted) now.add(stream)
  else now.delete(stream)
  chosen.value = now
}
async function take() {
  problem.value = ''
  const params = { path: { project_id: project.project!.id } }
  try {
    await keysWaitFor(project.askFor(answered(client.POST('/api/projects/{project_id}/tracks-out', { params, body: { streams: [...chosen.value] } }))))
  } catch (refused) {
    problem.value = (refused as Error).message
  }
}
</script>

<template>
  <div v-if="tracks.length" class="brought" data-tracks-brought>
    <p>{{ t('film.tracks', tracks.length) }}</p>
    <label v-for="track in tracks" :key="track.stream">
      <input type="checkbox" :checked="chosen.has(track.stream)" :disabled="!track.format" @change="choose(track.stream, ($event.target as HTMLInputElement).checked)" />
      {{ nameOf(track) }} <span class="soft">{{ track.format ? '' : t('film.pictures') }}</span>
    </label>
    <v-btn size="small" :disabled="!chosen.size || isBusy" data-take-tracks @click="take">{{ t('film.takeTracks', chosen.size) }}</v-btn>
    <JobLine v-if="job && job.state !== 'done'" :job="job" />
    <p v-else-if="job" role="status" class="done" data-tracks-taken>{{ t('film.tracksTaken', ((job.result?.tracks ?? []) as string[]).length) }}</p>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
  </div>
</template>

<style scoped>
.brought {
  display: grid;
  justify-items: start;
  gap: 4px;
}
p {
  margin: 0;
}
.done {
  color: var(--reed);
}
.problem {
  color: var(--heather);
}
</style>
