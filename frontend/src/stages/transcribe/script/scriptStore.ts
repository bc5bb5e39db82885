/** A client's script on its way in: looked at by the server, and sent again when it is taken. */
import { useDebounceFn } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'

import { answered, client, fileBody, type Schemas } from '@/api/client'
import { takenIn } from '@/session/takingIn'
import { newId, useTrack } from '@/session/tracksStore'

/** While it is typed or pasted into, it is looked at once. */
const LOOKED_AFTER_MS = 250

export const useScript = defineStore('script', () => {
  const track = useTrack()
  const file = shallowRef<File | null>(null)
  const pasted = ref('')
  const how = ref({ by: 'lines' as 'lines' | 'paragraphs', names: true, descriptions: true })
  const reading = shallowRef<Schemas['ScriptView'] | null>(null)
  const problem = ref('')
  const busy = ref(false)
  let asked = 0

  const body = computed<Blob | null>(() => file.value ?? (pasted.value.trim() ? new Blob([pasted.value]) : null))
  const query = () => ({ name: file.value?.name ?? 'script.txt', ...how.value })

  async function read() {
    const turn = ++asked
    if (!body.value) {
      ;[reading.value, problem.value] = [null, '']
      return
    }
    busy.value = true
    try {
      const found = await answered(
        client.POST('/api/tracks/{track_id}/script/preview', {
          params: { path: { track_id: track.id }, query: query() },
          ...fileBody(body.value),
        }),
      )
      if (turn === asked) [reading.value, problem.value] = [found, '']
    } catch (error) {
      if (turn === asked) [reading.value, problem.value] = [null, (error as Error).message]
    } finally {
      if (turn === asked) busy.value = false
    }
  }

  /** Puts it into the open track as captions; true when that was done. */
  async function take(): Promise<boolean> {
    const made = () =>
      answered(
        client.POST('/api/tracks/{track_id}/script', {
          params: { path: { track_id: track.id }, query: { ...query(), gesture: newId(), base_revision: track.seen() } },
          ...fileBody(body.value!),
        }),
      )
    const taken = await takenIn(track, made, { busy, problem })
    if (taken) forget()
    return taken
  }

  function forget() {
    file.value = null
    pasted.value = ''
    reading.value = null
    problem.value = ''
  }

  return { file, pasted, how, body, reading, problem, busy, look: useDebounceFn(read, LOOKED_AFTER_MS), take, forget }
})
