/** The open track judged by a spec that is being tried out, as soon as it or the captions change. */
import { watchDebounced } from '@vueuse/core'
import { shallowRef } from 'vue'

import { answered, client, type Schemas, type Spec } from '@/api/client'
import { useTrack } from '@/session/tracksStore'

export function useJudgement(spec: () => Spec | null | undefined) {
  const track = useTrack()
  const judgement = shallowRef<Schemas['JudgementView'] | null>(null)

  watchDebounced(
    [spec, () => track.captions],
    async () => {
      const tried = spec()
      if (!tried || !track.id) return
      await track.settled()
      const found = await answered(
        client.POST('/api/tracks/{track_id}/judgement', { params: { path: { track_id: track.id } }, body: tried }),
      ).catch(() => null)
      if (spec() === tried) judgement.value = found
    },
    { debounce: 120, immediate: true },
  )

  const distribution = (measure: string | undefined) =>
    judgement.value?.distributions.find((found) => found.measure === measure)

  return { judgement, distribution }
}
