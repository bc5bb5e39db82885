/** Edits that are seen at once and stored in turn, each once: how the stores send what they hold of a project. */
import { computed, type Ref, ref, shallowReactive } from 'vue'

import { Refused } from '@/api/client'
import { EditQueue, type Route, type Saving } from '@/session/editQueue'
import { newId } from '@/session/identity'

const RETRY_MS = 1500

export const aMoment = () => new Promise<void>((resolve) => setTimeout(resolve, RETRY_MS))

interface Unstored {
  saving: Ref<Saving>
  /** Why it waits, in words. */
  problem: Ref<string>
  /** How many edits wait to be stored. */
  count: Ref<number>
}

/** Queues that hold something which is not stored yet, whatever part of the project it is of. */
const unstored = shallowReactive(new Set<Unstored>())

/** How the edits are stored that are stored least. */
export const savingOfAll = computed<Saving>(() => {
  const states = [...unstored].map(({ saving }) => saving.value)
  return states.includes('waiting') ? 'waiting' : states.length ? 'saving' : 'saved'
})
/** How many edits wait to be stored, and why they do. */
export const waitingOfAll = computed(() => [...unstored].reduce((sum, { count }) => sum + count.value, 0))
export const problemOfAll = computed(() => [...unstored].find(({ problem }) => problem.value)?.problem.value ?? '')

/** @param route how edits are sent, and what becomes of answers and refusals */
export function storedEdits<E, A>(route: Pick<Route<E, A>, 'send' | 'took' | 'refused' | 'joined'>): { queue: EditQueue<E, A>; saving: Ref<Saving> } {
  const own: Unstored = { saving: ref('saved'), problem: ref(''), count: ref(0) }
  const queue = new EditQueue<E, A>({
    ...route,
    isFinal: (error) => error instanceof Refused && error.isFinal,
    changed: () => {
      own.saving.value = queue.saving
      own.problem.value = queue.problem
      own.count.value = queue.waiting.length
      if (queue.saving === 'saved') unstored.delete(own)
      else unstored.add(own)
    },
    pause: aMoment,
    newKey: newId,
  })
  return { queue, saving: own.saving }
}
