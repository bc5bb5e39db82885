/** Findings in words. */
import type { ComposerTranslation } from 'vue-i18n'

import type { Finding } from '@/api/client'

type T = ComposerTranslation

const DIGITS: Record<Finding['unit'], number> = { cps: 1, ms: 0, frames: 0, lines: 0, characters: 0 }

/** `Too fast 19.4 cps`. */
export function findingTitle(t: T, finding: Finding): string {
  return t(`finding.title.${finding.rule}`, { measured: finding.measured.toFixed(DIGITS[finding.unit]) })
}

/** The title, and what the spec allows. */
export function findingText(t: T, finding: Finding): string {
  return `${findingTitle(t, finding)}, ${t(`finding.limit.${finding.rule}`, { limit: finding.limit })}`
}
