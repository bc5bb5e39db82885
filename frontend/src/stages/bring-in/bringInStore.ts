/** A caption file on its way in: looked at by the server, and sent again when it is taken. */
import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'

import { answered, client, fileBody, type Schemas } from '@/api/client'
import { useProject } from '@/session/projectStore'
import { takenIn } from '@/session/takingIn'
import { newId, useTrack } from '@/session/tracksStore'

export interface How {
  format?: string
  encoding?: string
  fps?: string
}

export const useBringIn = defineStore('bring-in', () => {
  const project = useProject()
  const track = useTrack()
  const file = shallowRef<File | null>(null)
  const reading = shallowRef<Schemas['ReadingView'] | null>(null)
  const how = ref<How>({})
  const problem = ref('')
  const busy = ref(false)

  async function look(chosen: File) {
    file.value = chosen
    how.value = {}
    await read()
  }

  /** Reads the file in another way than it was told to be. */
  async function again(change: How) {
    how.value = { ...how.value, ...change }
    await read()
  }

  async function read() {
    const chosen = file.value!
    busy.value = true
    problem.value = ''
    try {
      const found = await answered(
        client.POST('/api/projects/{project_id}/captions-file', {
          params: { path: { project_id: project.project!.id }, query: { name: chosen.name, ...how.value } },
          ...fileBody(chosen),
        }),
      )
      if (file.value === chosen) reading.value = found
    } catch (error) {
      reading.value = null
      problem.value = (error as Error).message
    } finally {
      busy.value = false
    }
  }

  /** Puts its captions into the open track; true when that was done. */
  async function take(): Promise<boolean> {
    const chosen = file.value!
    const made = () =>
      answered(
        client.POST('/api/tracks/{track_id}/captions-file', {
          params: {
            path: { track_id: track.id },
            query: { name: chosen.name, gesture: newId(), base_revision: track.seen(), ...how.value },
          },
          ...fileBody(chosen),
        }),
      )
    const taken = await takenIn(track, made, { busy, problem })
    if (taken) forget()
    return taken
  }

  function forget() {
    file.value = null
    reading.value = null
    problem.value = ''
  }

  return { file, reading, how, problem, busy, look, again, take, forget }
})
