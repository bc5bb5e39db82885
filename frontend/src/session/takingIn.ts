/** Captions that a request puts into the open track, as one edit. */
import type { Ref } from 'vue'

import type { EditView } from '@/api/client'
import type { useTrack } from '@/session/tracksStore'

/** True when they were taken in; false when they were refused, and `problem` says why. */
export async function takenIn(
  track: ReturnType<typeof useTrack>,
  made: () => Promise<EditView | undefined>,
  { busy, problem }: { busy: Ref<boolean>; problem: Ref<string> },
): Promise<boolean> {
  busy.value = true
  try {
    await track.settled()
    const edit = await made()
    // Nothing comes of what is so already.
    if (edit) track.accept(edit)
    return true
  } catch (error) {
    problem.value = (error as Error).message
    return false
  } finally {
    busy.value = false
  }
}
