/** The words of the caption that is worked on that no dictionary knows: another one put in their place, or accepted, by key. */
import { watchDebounced } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'

import { answered, client, named, type Schemas } from '@/api/client'
import { useCommands } from '@/kit/commands/commands'
import { useSelection } from '@/score/selectionStore'
import { textOf } from '@/session/captions'
import { useProject } from '@/session/projectStore'
import { newId, useTrack } from '@/session/tracksStore'

export type Unknown = Schemas['UnknownWordView']

const SOON_MS = 250

export function useSpelling() {
  const project = useProject()
  const track = useTrack()
  const selection = useSelection()
  const found = shallowRef<Schemas['SpellingView'] | null>(null)
  /** Which suggestion the key takes, of all that there are for the caption. */
  const at = ref(0)

  const state = computed(() => {
    const caption = selection.current
    return caption ? [track.id, caption.id, project.dictionaryChanges, textOf(caption)].join(' ') : null
  })
  watch(
    () => `${track.id} ${selection.currentId}`,
    () => (found.value = null),
    { flush: 'sync' },
  )
  watchDebounced(
    state,
    async (now) => {
      if (!now) return
      const path = { track_id: track.id, caption_id: selection.currentId! }
      await track.settled()
      const answer = await answered(client.GET('/api/tracks/{track_id}/captions/{caption_id}/spelling', { params: { path } })).catch(() => null)
      if (state.value !== now) return
      found.value = answer
      at.value = 0
    },
    { debounce: SOON_MS, immediate: true },
  )

  const unknown = computed(() => found.value?.unknown ?? [])
  const offered = computed(() => unknown.value.flatMap((word) => word.suggestions.map((suggestion) => ({ word, suggestion }))))

  /** Where the text has not the word any more, it was written in since: nothing is put then. */
  function take(one = offered.value[at.value]) {
    const caption = selection.current
    if (!caption || !one) return
    const text = textOf(caption)
    const { start, end, word } = one.word
    if (text.slice(start, end) !== word) return
    const put = text.slice(0, start) + one.suggestion + text.slice(end)
    track.edit({ kind: 'change-captions', changes: [{ caption: caption.id, text: put }] }, newId())
  }
  async function accept(word: Unknown | undefined = offered.value[at.value]?.word ?? unknown.value[0], scope: 'project' | 'house' = 'project') {
    if (!word) return
    const params = { path: { project_id: project.project!.id, scope } }
    const body = { word: word.word, language: project.trackInfo?.language ?? 'und' }
    try {
      await answered(client.PUT('/api/projects/{project_id}/dictionary/{scope}', { params, ...named(newId()), body }))
    } catch (refused) {
      track.refusal = (refused as Error).message
    }
  }
  const isOn = (word: Unknown, suggestion: string) => offered.value[at.value]?.word === word && offered.value[at.value]?.suggestion === suggestion

  useCommands([
    { id: 'spelling-take', run: () => take(), enabled: () => offered.value.length > 0, why: 'now' },
    { id: 'spelling-next', run: () => (at.value = (at.value + 1) % offered.value.length), enabled: () => offered.value.length > 1, why: 'now' },
    { id: 'spelling-accept', run: () => void accept(), enabled: () => unknown.value.length > 0, why: 'now' },
  ])

  return { unknown, take, accept, isOn }
}
