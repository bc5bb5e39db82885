/** The languages of the translation that is worked on. */
import { computed, type ComputedRef } from 'vue'

import { useProject } from '@/session/projectStore'
import { useTranslation } from '@/session/translationStore'

/** Tags of the source's and the translation's language; `und` where there is none. */
export function usePairLanguages(): ComputedRef<{ source: string; target: string }> {
  const project = useProject()
  const translation = useTranslation()
  const of = (id: string | null | undefined) => project.project?.tracks.find((info) => info.id === id)?.language ?? 'und'
  return computed(() => ({ source: of(translation.pair?.source), target: of(translation.pair?.target) }))
}
