/** Findings in words. */
import type { ComposerTranslation } from 'vue-i18n'

import type { Finding } from '@/api/client'
import { sentence } from '@/kit/i18n'

type T = ComposerTranslation

/** `Too fast 19.4 cps`. */
export function findingTitle(t: T, finding: Finding): string {
  const digits = finding.unit === 'cps' ? 1 : 0
  return t(`finding.title.${finding.rule}`, { measured: finding.measured.toFixed(digits) }, Math.round(finding.measured))
}

/** What the spec allows: `allowed 17 cps`; nothing for what must not be there at all. */
export function limitText(t: T, finding: Finding): string {
  return t(`finding.limit.${finding.rule}`, { limit: Number(finding.limit.toFixed(2)) })
}

/** The title, and what the spec allows; what is wrong in the text itself is told by the rule. */
export function findingText(t: T, finding: Finding): string {
  if (finding.unit === 'places') return sentence(finding.message)
  const limit = limitText(t, finding)
  return limit ? `${findingTitle(t, finding)}, ${limit}` : findingTitle(t, finding)
}
