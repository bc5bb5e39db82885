/** The film of the open project: brought in later, another put in its place, an earlier one shown again. */
import { defineStore } from 'pinia'
import { ref, shallowRef, watch } from 'vue'

import { answered, client, named, type ProjectView, type Schemas } from '@/api/client'
import { useFilmUpload } from '@/session/filmUpload'
import { useProject } from '@/session/projectStore'
import { newId, useTrack } from '@/session/tracksStore'

export const useFilm = defineStore('film', () => {
  const project = useProject()
  const track = useTrack()
  const open = ref(false)
  /** One that was dropped while another is shown: put in its place when that is said. */
  const offered = shallowRef<File | null>(null)
  const earlier = shallowRef<Schemas['FilmView'][]>([])
  /** Whether captions were made for another film than the one that is shown now, or before there was one. */
  const isNew = ref(false)
  const { sending, problem, send, stop } = useFilmUpload()

  async function load() {
    const { id, film } = project.project!
    const films = await answered(client.GET('/api/projects/{project_id}/films', { params: { path: { project_id: id } } }))
    if (project.project?.id === id) earlier.value = films.filter((one) => one.id !== film.id)
  }

  watch(() => project.project?.id, () => {
    open.value = isNew.value = false
    offered.value = null
    earlier.value = []
  })
  // Whichever window put it there.
  watch(() => [open.value, project.project?.film.id] as const, ([opened, id]) => {
    if (opened && id !== undefined) void load()
  })

  function offer(file: File) {
    open.value = true
    if (project.hasFilm) offered.value = file
    else void put(file)
  }

  /** Brings a film in, which the project shows from then on. */
  async function put(file: File) {
    offered.value = null
    const { id } = project.project!
    const view = await send(`/api/projects/${id}/films`, file)
    if (view && project.project?.id === id) await shown(view)
  }

  async function showAgain(film: Schemas['FilmView']) {
    await asked(async () => {
      const params = { path: { project_id: project.project!.id } }
      await shown(
        await answered(client.PUT('/api/projects/{project_id}/film', { params, ...named(newId()), body: { film_id: film.id } })),
      )
    })
  }

  async function shown(view: ProjectView) {
    await project.took(view)
    isNew.value = track.captions.length > 0
    await load()
  }

  /** Deletes an earlier film from the disk. */
  async function remove(film: Schemas['FilmView']) {
    await asked(async () => {
      await answered(client.DELETE('/api/films/{film_id}', { params: { path: { film_id: film.id } } }))
      await load()
    })
  }

  async function setRate(fps: string) {
    await asked(() => project.change({ fps }))
  }

  async function asked(what: () => Promise<unknown>) {
    problem.value = ''
    try {
      await what()
    } catch (refused) {
      problem.value = (refused as Error).message
    }
  }

  return { open, offered, earlier, isNew, sending, problem, stop, offer, put, showAgain, remove, setRate }
})
