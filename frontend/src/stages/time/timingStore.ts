/** What stands beside the Score while captions are timed, and what it would change. */
import { defineStore } from 'pinia'
import { ref, shallowRef, watch } from 'vue'

import { answered, client, type Schemas } from '@/api/client'
import { useProject } from '@/session/projectStore'

export type Panel = 'cue' | 'retime' | 'fit'
export type Times = Schemas['Times']
export type Stretch = Schemas['Stretch']

export const useTiming = defineStore('timing', () => {
  const project = useProject()
  const panel = ref<Panel | null>(null)
  /** Where captions would stand, by id, while a change is looked at before it is made. */
  const ghosts = shallowRef<ReadonlyMap<string, Times>>(new Map())
  const speech = shallowRef<readonly Stretch[]>([])
  let speechOf = ''

  function show(wanted: Panel) {
    panel.value = panel.value === wanted ? null : wanted
  }

  function open(wanted: Panel) {
    panel.value = wanted
  }

  function close() {
    panel.value = null
  }

  function setGhosts(times: readonly Times[]) {
    ghosts.value = new Map(times.map((entry) => [entry.caption, entry]))
  }

  async function loadSpeech() {
    const { id: project_id, film } = project.project!
    if (!film.has_sound) return
    const { data } = await client.GET('/api/films/{film_id}/speech', { params: { path: { film_id: film.id } } })
    if (project.project?.film.id !== film.id) return
    if (data) {
      speech.value = data.stretches
      speechOf = film.id
    } else if (!project.latest('speech')) {
      // A project from before speech was looked for.
      await answered(client.POST('/api/projects/{project_id}/speech', { params: { path: { project_id } } }))
    }
  }

  watch(
    [() => project.project?.film.id, () => project.latest('speech')?.state] as const,
    ([id]) => {
      if (speechOf !== id) speech.value = []
      if (id && speechOf !== id) void loadSpeech()
    },
    { immediate: true },
  )
  watch(panel, () => setGhosts([]))

  return { panel, ghosts, speech, show, open, close, setGhosts }
})
