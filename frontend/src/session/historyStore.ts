/** Undo and redo of one's own gestures, in what is in view. */
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'

import { answered, type ChangesView, client, Refused } from '@/api/client'
import { person } from '@/session/identity'
import { useProject } from '@/session/projectStore'
import { useTrack, useTracks } from '@/session/tracksStore'

export type View = 'captions' | 'transcript'

/** Somebody's edit that came on top of the one to be undone. */
export interface InTheWay {
  own: boolean
  target: string
  captions: string[]
}

export const useHistory = defineStore('history', () => {
  const project = useProject()
  const tracks = useTracks()
  const track = useTrack()
  const view = ref<View>('captions')
  const inTheWay = ref<InTheWay | null>(null)

  const targets = computed(() =>
    view.value === 'transcript'
      ? ['transcript', 'speakers', 'terms']
      : [`tracks/${track.id}/captions`, `tracks/${track.id}/waivers`],
  )
  const canUndo = computed(() => (view.value === 'transcript' ? project.wordsHistory.canUndo : track.canUndo))
  const canRedo = computed(() => (view.value === 'transcript' ? project.wordsHistory.canRedo : track.canRedo))

  /** What is written in an editor and not sent yet is sent before anything is taken back. */
  const writers = new Set<() => Promise<unknown>>()

  /** Takes one's own newest gesture back, or does the one undone last again; gives what that changed. */
  async function step(direction: 'undo' | 'redo'): Promise<ChangesView | undefined> {
    inTheWay.value = null
    await Promise.all([...writers].map((send) => send()))
    await tracks.settled()
    try {
      const made = await answered(
        client.POST(`/api/projects/{project_id}/${direction}`, {
          params: { path: { project_id: project.project!.id } },
          body: { targets: targets.value },
        }),
      )
      if (!made) return undefined
      await project.happened(made)
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
    return { own: actor === person, target, captions: touched.filter((id) => track.byId.has(id)) }
  }

  return { view, canUndo, canRedo, inTheWay, step, writers }
})
