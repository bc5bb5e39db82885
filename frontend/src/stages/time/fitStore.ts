/** Captions fitted to the speech by their words, and the doubtful ones to be heard after. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'

import { answered, client, type JobView } from '@/api/client'
import { usePlayer } from '@/picture/playerStore'
import { useProject } from '@/session/projectStore'
import { retiming } from '@/session/merging'
import { newId, useTrack } from '@/session/tracksStore'
import { useSelection } from '@/score/selectionStore'
import { type Times, useTiming } from '@/stages/time/timingStore'

interface Fit {
  times: (Times & { sure: number })[]
}

/** As `DOUBTFUL` in the core: a caption less sure than this wants to be heard. */
const DOUBTFUL = 0.5
/** Sound around a caption that tells whether it comes in with the voice. */
const AROUND_MS = 600

export const useFit = defineStore('fit', () => {
  const project = useProject()
  const track = useTrack()
  const selection = useSelection()
  const player = usePlayer()
  const timing = useTiming()

  const onlySelected = ref(false)
  /** The job whose result was applied, or put away. */
  const finished = ref('')
  const queue = shallowRef<readonly string[]>([])
  /** The doubtful one that is being fitted once more. */
  const redoing = ref('')
  /** Whether what is found is applied without a look before. */
  const atOnce = ref(false)
  const sureness = shallowRef<ReadonlyMap<string, number>>(new Map())

  const job = computed<JobView | undefined>(() =>
    project.jobs.find((one) => one.kind === 'fit' && one.parameters.track_id === track.id),
  )
  const found = computed(() =>
    job.value?.state === 'done' && job.value.id !== finished.value
      ? (job.value.result as unknown as Fit).times.filter((entry) => track.byId.has(entry.caption))
      : null,
  )
  const doubtful = computed(() => (found.value ?? []).filter((entry) => entry.sure < DOUBTFUL))

  watch([found, () => timing.panel], () => {
    if (timing.panel === 'fit') timing.setGhosts(found.value ?? [])
  })

  watch(found, (times) => {
    if (!times || !atOnce.value) return
    atOnce.value = false
    apply()
  })

  function askForAll() {
    atOnce.value = true
    return request([])
  }

  function ask() {
    return request(onlySelected.value ? selection.selected.map((caption) => caption.id) : [])
  }

  /** Asks for some captions to be fitted between those around them, or for all when none is named. */
  async function request(captions: string[]) {
    await track.settled()
    const body = captions.length
      ? { captions, from_ms: before(captions[0]!), to_ms: after(captions.at(-1)!) }
      : { captions: null, from_ms: 0, to_ms: null }
    await project.askFor(
      answered(client.POST('/api/tracks/{track_id}/fit', { params: { path: { track_id: track.id } }, body })),
    )
  }

  const place = (id: string) => track.captions.findIndex((caption) => caption.id === id)
  const before = (id: string) => track.captions[place(id) - 1]?.out_ms ?? 0
  const after = (id: string) => track.captions[place(id) + 1]?.in_ms ?? project.durationMs

  function apply() {
    if (!found.value) return
    sureness.value = new Map(found.value.map((entry) => [entry.caption, entry.sure]))
    queue.value = doubtful.value.map((entry) => entry.caption)
    const times = found.value.map(({ caption, in_ms, out_ms }) => ({ caption, in_ms, out_ms }))
    finished.value = job.value!.id
    track.edit(retiming(times), newId())
    timing.setGhosts([])
    hear()
  }

  /** Fits the first doubtful one once more, into the room that its neighbours leave now. */
  async function redo() {
    redoing.value = queue.value[0] ?? ''
    if (redoing.value) await request([redoing.value])
  }

  watch(found, (times) => {
    const again = times?.find((entry) => entry.caption === redoing.value)
    if (!again) return
    finished.value = job.value!.id
    redoing.value = ''
    sureness.value = new Map([...sureness.value, [again.caption, again.sure]])
    const { caption, in_ms, out_ms } = again
    track.edit(retiming([{ caption, in_ms, out_ms }]), newId())
    timing.setGhosts([])
    hear()
  })

  function dismiss() {
    finished.value = job.value?.id ?? ''
    timing.setGhosts([])
  }

  /** Selects the first doubtful one, and plays it with a little before and after. */
  function hear() {
    const caption = track.byId.get(queue.value[0] ?? '')
    if (!caption) return
    selection.only(caption.id)
    player.hear(Math.max(caption.in_ms - AROUND_MS, 0), caption.out_ms + AROUND_MS)
  }

  function accept() {
    queue.value = queue.value.slice(1).filter((id) => track.byId.has(id))
    hear()
  }

  return { onlySelected, job, found, doubtful, queue, sureness, redoing, ask, askForAll, apply, redo, dismiss, hear, accept }
})
