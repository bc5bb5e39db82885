/** Captions as they would be made of the transcript, worked out anew with each turn of a dial. */
import { useDebounceFn, useStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'

import { answered, client, type Schemas } from '@/api/client'
import { newId, useTrack } from '@/project/trackStore'

export const WAYS = ['spec', 'shape'] as const
export const LETTERS = ['written', 'upper', 'lower', 'sentence'] as const

/** While a number is typed, its digits are one change. */
const LOOKED_AFTER_MS = 150

export const useMaking = defineStore('making', () => {
  const track = useTrack()
  const way = useStorage<(typeof WAYS)[number]>('dunlin.make.way', 'spec')
  const shape = useStorage('dunlin.make.shape', { words_per_line: 3, lines: 1 })
  const letters = useStorage<(typeof LETTERS)[number]>('dunlin.make.letters', 'written')
  const keep = ref(true)
  /** Empty is the spec the track is judged by. */
  const specId = ref('')
  const preview = shallowRef<Schemas['MakingView'] | null>(null)
  const problem = ref('')
  const busy = ref(false)
  let asked = 0

  function choice(): Schemas['MakingChoice'] {
    return {
      spec_id: specId.value || null,
      shape: way.value === 'shape' ? shape.value : null,
      case: letters.value === 'written' ? null : letters.value,
      keep: keep.value,
    }
  }

  async function look() {
    const turn = ++asked
    try {
      const found = await answered(
        client.POST('/api/tracks/{track_id}/captions-from-words/preview', {
          params: { path: { track_id: track.id } },
          body: choice(),
        }),
      )
      // An older answer that comes late says what nobody asks any more.
      if (turn === asked) [preview.value, problem.value] = [found, '']
    } catch (error) {
      if (turn === asked) [preview.value, problem.value] = [null, (error as Error).message]
    }
  }

  /** Puts them into the track; true when that was done. */
  async function accept(): Promise<boolean> {
    busy.value = true
    try {
      await track.settled()
      track.accept(
        await answered(
          client.POST('/api/tracks/{track_id}/captions-from-words', {
            params: { path: { track_id: track.id } },
            body: { ...choice(), actor: track.actor, gesture: newId() },
          }),
        ),
      )
      return true
    } catch (error) {
      problem.value = (error as Error).message
      return false
    } finally {
      busy.value = false
    }
  }

  return { way, shape, letters, keep, specId, preview, problem, busy, look: useDebounceFn(look, LOOKED_AFTER_MS), accept }
})
