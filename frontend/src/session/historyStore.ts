/** Undo and redo of one's own gestures, in what is in view. */
import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'

import { answered, type ChangesView, client, Refused } from '@/api/client'
import { useAbout } from '@/session/aboutStore'
import { usePacking } from '@/session/packingStore'
import { HOUSE, useProject } from '@/session/projectStore'
import { useTrack, useTracks } from '@/session/tracksStore'
import { useTranslation } from '@/session/translationStore'
import { useVersions } from '@/session/versionsStore'

/** `none`: nothing in view can be undone here. */
export type View = 'captions' | 'looks' | 'translation' | 'transcript' | 'specs' | 'packing' | 'none'

/** Somebody's edit that came on top of the one to be undone. */
export interface InTheWay {
  /** Whose it is: a person's id. */
  actor: string
  target: string
  captions: string[]
}

export const useHistory = defineStore('history', () => {
  const project = useProject()
  const tracks = useTracks()
  const track = useTrack()
  const versions = useVersions()
  const translation = useTranslation()
  const packing = usePacking()
  const about = useAbout()
  const view = ref<View>('captions')
  const inTheWay = ref<InTheWay | null>(null)
  /** Grows with each step back or forward. */
  const steps = ref(0)

  /** Whether there may be something to take back of the specs; it is known once it was asked for. */
  const ofSpecs = ref({ canUndo: true, canRedo: true })
  watch(() => project.specs, () => (ofSpecs.value = { canUndo: true, canRedo: true }))

  /** Of looks it is known where they are read. */
  const ofLooks = ref({ canUndo: true, canRedo: true })

  /** Of a version that was taken away what differed in it comes back with it. */
  const ofVersions = computed(() => [`tracks/${track.id}/versions`, ...versions.versions.map(({ id }) => `tracks/${track.id}/versions/${id}/captions`)])
  /** Of a translation and its source, and of how far it is. */
  const ofPair = computed(() => {
    const { target, source } = translation.pair ?? { target: track.id, source: null }
    return [`tracks/${target}/captions`, `tracks/${target}/links`, `tracks/${target}/waivers`, ...(source ? [`tracks/${source}/captions`] : []), 'glossary', 'dictionary']
  })
  const pairHistory = computed(() => {
    const both = [translation.target, translation.source]
    return {
      canUndo: project.termListChanges + project.dictionaryChanges > 0 || translation.canUndo || both.some((one) => one?.canUndo.value),
      canRedo: translation.canRedo || both.some((one) => one?.canRedo.value),
    }
  })
  /** Of words that were accepted it is not known whose they are, until it is asked. */
  const ofTrackNow = computed(() => ({ canUndo: track.canUndo || project.dictionaryChanges > 0, canRedo: track.canRedo || project.dictionaryChanges > 0 }))
  const targets = computed(() => {
    if (view.value === 'none') return []
    if (view.value === 'specs') return ['specs']
    if (view.value === 'transcript') return ['transcript', 'speakers', 'terms']
    if (view.value === 'translation') return ofPair.value
    if (view.value === 'packing') return ['about', 'deliveries', ...(packing.lists?.deliveries ?? []).map(({ id }) => `deliveries/${id}/items`), ...(packing.shownId ? [`deliveries/${packing.shownId}/items`] : [])]
    const ofTrack = [`tracks/${track.id}/captions`, `tracks/${track.id}/waivers`, 'dictionary']
    return view.value === 'looks' ? [...ofTrack, ...ofVersions.value, 'styles', 'speakers', 'tracks'] : ofTrack
  })
  const state = computed(() => (view.value === 'packing' ? { canUndo: true, canRedo: true } : view.value === 'specs' ? ofSpecs.value : view.value === 'transcript' ? project.wordsHistory : view.value === 'looks' ? ofLooks.value : view.value === 'translation' ? pairHistory.value : ofTrackNow.value))
  const canUndo = computed(() => view.value !== 'none' && state.value.canUndo)
  const canRedo = computed(() => view.value !== 'none' && state.value.canRedo)

  /** What is written in an editor and not sent yet is sent before anything is taken back. */
  const writers = new Set<() => Promise<unknown>>()

  /** Ends when all that was written is stored. */
  async function stored() {
    await Promise.all([...writers].map((send) => send()))
    await Promise.all([tracks.settled(), versions.settled(), translation.settled(), packing.settled(), about.settled()])
  }

  /** Takes one's own newest gesture back, or does the one undone last again; gives what that changed. */
  async function step(direction: 'undo' | 'redo'): Promise<ChangesView | undefined> {
    inTheWay.value = null
    if (view.value === 'none') return undefined
    await stored()
    try {
      const made = await answered(
        client.POST(`/api/projects/{project_id}/${direction}`, {
          // Specs are the house's: what was done to them is taken back there.
          params: { path: { project_id: view.value === 'specs' ? HOUSE : project.project!.id } },
          body: { targets: targets.value },
        }),
      )
      if (!made) {
        ofSpecs.value = { ...ofSpecs.value, [direction === 'undo' ? 'canUndo' : 'canRedo']: false }
        return undefined
      }
      await project.happened(made)
      steps.value++
      return made
    } catch (problem) {
      if (!(problem instanceof Refused)) throw problem
      if (problem.code === 'edits.in-the-way') inTheWay.value = told(problem.values)
      else tracks.refusal = problem.message
      return undefined
    }
  }

  function told(values: Record<string, unknown>): InTheWay {
    const { actor, target, touched } = values as { actor: string; target: string; touched: string[] }
    return { actor, target, captions: touched.filter((id) => track.byId.has(id)) }
  }

  return { view, ofLooks, steps, canUndo, canRedo, inTheWay, step, stored, writers }
})
