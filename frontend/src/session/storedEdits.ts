/** Edits that are seen at once and stored in turn, each once: how the stores send what they hold of a project. */
import { type Ref, ref } from 'vue'

import { Refused } from '@/api/client'
import { EditQueue, type Route, type Saving } from '@/session/editQueue'
import { newId } from '@/session/identity'

const RETRY_MS = 1500

export const aMoment = () => new Promise<void>((resolve) => setTimeout(resolve, RETRY_MS))

export interface StoredEdits<E, A> {
  queue: EditQueue<E, A>
  saving: Ref<Saving>
  /** Why it waits, in words. */
  problem: Ref<string>
  /** How many edits wait to be stored. */
  waitingCount: Ref<number>
}

/** @param route how edits are sent, and what becomes of answers and refusals */
export function storedEdits<E, A>(route: Pick<Route<E, A>, 'send' | 'took' | 'refused' | 'joined'>): StoredEdits<E, A> {
  const saving = ref<Saving>('saved')
  const problem = ref('')
  const waitingCount = ref(0)
  const queue = new EditQueue<E, A>({
    ...route,
    isFinal: (error) => error instanceof Refused && error.isFinal,
    changed: () => {
      saving.value = queue.saving
      problem.value = queue.problem
      waitingCount.value = queue.waiting.length
    },
    pause: aMoment,
    newKey: newId,
  })
  return { queue, saving, problem, waitingCount }
}
