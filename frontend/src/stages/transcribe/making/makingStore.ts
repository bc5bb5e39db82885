/** Captions as they would be made of the transcript, worked out anew with each turn of a dial. */
import { useDebounceFn, useStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'

import { answered, client, type Schemas } from '@/api/client'
import { takenIn } from '@/session/takingIn'
import { newId, useTrack } from '@/session/tracksStore'
import { keysWaitFor } from '@/kit/commands/commands'

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
  /** What each change says and when: it is the same one when it is looked at again. */
  const said = computed(() => {
    const found: string[] = (preview.value?.gone ?? []).map(() => '')
    for (const { change, in_ms, text } of preview.value?.captions ?? []) if (change !== null) found[change] += `${in_ms} ${text}\n`
    return found
  })
  /** Changes that are left out, by what they say. */
  const leftOut = shallowRef<ReadonlySet<string>>(new Set())
  const isTaken = (change: number | null) => change !== null && !leftOut.value.has(said.value[change]!)
  const takenCount = computed(() => said.value.filter((_, change) => isTaken(change)).length)
  const problem = ref('')
  const busy = ref(false)
  /** Whether what is seen is not, or not yet, what the dials and the track say. */
  const outdated = ref(true)
  let asked = 0

  function choice(): Schemas['MakingChoice'] {
    return {
      spec_id: specId.value || null,
      shape: way.value === 'shape' ? shape.value : null,
      case: letters.value === 'written' ? null : letters.value,
      keep: keep.value,
    }
  }

  const lookSoon = useDebounceFn(async () => {
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
    if (turn === asked) outdated.value = false
  }, LOOKED_AFTER_MS)

  /** Looks at what the dials and the track say now; what was seen until then cannot be accepted any more. */
  function look(): Promise<void> {
    outdated.value = true
    asked++
    return keysWaitFor(lookSoon())
  }

  /** There is nothing to look at: why is shown in its place. */
  function lookAtNothing(why: string) {
    asked++
    preview.value = null
    outdated.value = true
    problem.value = why
  }

  /** Begins with nothing to be seen: what was seen last may be of another track. */
  function begin() {
    preview.value = null
    outdated.value = true
  }

  /** Takes a change, or leaves it out. */
  function choose(change: number, taken: boolean) {
    const now = new Set(leftOut.value)
    if (taken) now.delete(said.value[change]!)
    else now.add(said.value[change]!)
    leftOut.value = now
  }

  /** Takes all changes, or none. */
  function chooseAll(taken: boolean) {
    leftOut.value = new Set(taken ? [] : said.value)
  }

  /** Whether the captions that are there stay too, as a track of their own. */
  const keepOld = ref(false)

  /** Puts what is chosen into the track; true when that was done. */
  async function accept(): Promise<boolean> {
    const looked = preview.value
    if (!looked || outdated.value) return false
    const made = () =>
      answered(
        client.POST('/api/tracks/{track_id}/captions-from-words', {
          params: { path: { track_id: track.id } },
          body: {
            ...choice(),
            keep_old: keepOld.value,
            gesture: newId(),
            looked_at: {
              revision: looked.revision,
              words_revision: looked.words_revision,
              changes: [...looked.gone.keys()].filter(isTaken),
            },
          },
        }),
      )
    const taken = await takenIn(track, made, { busy, problem })
    if (taken) leftOut.value = new Set()
    return taken
  }

  return { way, shape, letters, keep, keepOld, specId, preview, isTaken, takenCount, choose, chooseAll, problem, busy, outdated, begin, look, lookAtNothing, accept }
})
