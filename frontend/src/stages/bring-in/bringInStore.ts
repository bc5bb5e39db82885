/** A caption file on its way in: looked at by the server, and sent again when it is taken. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'

import { answered, client, fileBody, type Schemas } from '@/api/client'
import { useProject } from '@/session/projectStore'
import { takenIn } from '@/session/takingIn'
import { newId, useTrack } from '@/session/tracksStore'

export interface How {
  format?: string
  encoding?: string
  fps?: string
}

/** How well a file agrees with the film's sound: null until that is known, and then why it is not. */
interface Heard {
  agreement: Schemas['AgreementView'] | null
  problem: string
}

export interface Candidate extends Heard {
  file: File
}

/** What of its captions is on speech once it is in its place, as far as that is sure; of equals, as they are. */
const worth = ({ agreement }: Candidate) =>
  agreement ? Math.round(agreement.in_place * agreement.sure) * 1000 + agreement.as_it_is : -1

export const useBringIn = defineStore('bring-in', () => {
  const project = useProject()
  const track = useTrack()
  const file = shallowRef<File | null>(null)
  const reading = shallowRef<Schemas['ReadingView'] | null>(null)
  const how = ref<How>({})
  const problem = ref('')
  const busy = ref(false)

  /** Several files for one film. */
  const files = shallowRef<readonly File[]>([])
  const heard = shallowRef<ReadonlyMap<File, Heard>>(new Map())
  /** The best comes first. */
  const candidates = computed<Candidate[]>(() =>
    files.value
      .map((one) => ({ file: one, ...(heard.value.get(one) ?? { agreement: null, problem: '' }) }))
      .toSorted((a, b) => worth(b) - worth(a)),
  )
  /** How the chosen file agrees with the sound, where it was one of several. */
  const agreement = computed(() => (file.value && heard.value.get(file.value)?.agreement) ?? null)

  /** Files to look at: the first is read, and several are compared with the film's sound. */
  function choose(chosen: readonly File[]) {
    file.value = chosen[0] ?? null
    how.value = {}
    reading.value = null
    problem.value = ''
    heard.value = new Map()
    files.value = chosen.length > 1 ? chosen : []
  }

  async function look(chosen: File) {
    file.value = chosen
    how.value = {}
    await read()
  }

  // A film whose sound is still listened to cannot be compared with.
  const listened = computed(() => Boolean(project.project?.film.has_sound) && project.latest('speech')?.state === 'done')
  watch([files, listened], ([chosen, ready]) => void (ready && chosen.length && rank(chosen)))

  /** Hears which of several files is this film's, one after the other, and looks at that. */
  async function rank(chosen: readonly File[]) {
    for (const one of chosen) {
      const told = await compared(one)
      if (files.value !== chosen) return
      heard.value = new Map(heard.value).set(one, told)
    }
    const best = candidates.value[0]!
    if (best.agreement?.sure && best.file !== file.value) await look(best.file)
  }

  async function compared(one: File): Promise<Heard> {
    const params = { path: { project_id: project.project!.id }, query: { name: one.name } }
    try {
      const request = client.POST('/api/projects/{project_id}/captions-file/agreement', { params, ...fileBody(one) })
      return { agreement: await answered(request), problem: '' }
    } catch (refused) {
      return { agreement: null, problem: (refused as Error).message }
    }
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
    choose([])
  }

  return { file, reading, how, problem, busy, candidates, agreement, listened, choose, look, read, again, take, forget }
})
