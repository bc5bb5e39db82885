/** What a file leaves out of its captions, in words. */
import { useI18n } from 'vue-i18n'

import type { Schemas } from '@/api/client'

export function useLosses() {
  const { t } = useI18n()
  return (losses: readonly Schemas['LossView'][]): string => {
    const told = new Map<string, string[]>()
    for (const loss of losses) {
      const what = t(`deliver.loss.${loss.what}`, { count: loss.captions.length })
      told.set(loss.done, [...(told.get(loss.done) ?? []), what])
    }
    return [...told].map(([done, what]) => t(`deliver.losses.${done}`, { what: what.join(', ') })).join('; ')
  }
}
