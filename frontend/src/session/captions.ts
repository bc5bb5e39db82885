/** A track's captions as the page holds them: in order of their ins, found by id or by time. */
import type { CaptionView } from '@/api/client'
import { firstIndex } from '@/kit/ordered'

export type Caption = CaptionView

export const textOf = (caption: Pick<Caption, 'spans'>) => caption.spans.map((span) => span.text).join('')

/** What nobody waived. */
export const openFindings = (caption: Pick<Caption, 'findings'>) =>
  caption.findings.some((finding) => finding.waived) ? caption.findings.filter((finding) => !finding.waived) : caption.findings

const before = (a: Caption, b: Caption) => a.in_ms - b.in_ms || (a.id < b.id ? -1 : 1)

/** Captions with others put in, or in the place of those with their ids, and some taken out. */
export function merged(captions: readonly Caption[], put: readonly Caption[], removed: readonly string[]): Caption[] {
  const fresh = new Map(put.map((caption) => [caption.id, caption]))
  const gone = new Set(removed)
  const kept: Caption[] = []
  let inPlace = gone.size === 0
  for (const caption of captions) {
    if (gone.has(caption.id)) continue
    const now = fresh.get(caption.id)
    if (now) {
      fresh.delete(caption.id)
      inPlace &&= now.in_ms === caption.in_ms
    }
    kept.push(now ?? caption)
  }
  if (fresh.size === 0 && inPlace) return kept
  kept.push(...fresh.values())
  return kept.sort(before)
}

/** Index of the first caption whose in is at or after a time. */
export function firstFrom(captions: readonly { in_ms: number }[], ms: number): number {
  return firstIndex(captions, (caption) => caption.in_ms, ms)
}

/** Index of the caption that is shown at a time, or of the last one that was; -1 before the first. */
export function indexAt(captions: readonly Caption[], ms: number): number {
  return firstFrom(captions, ms + 1) - 1
}

/** Whether it is an outline that is drawn, and has no words. */
export const isShape = (caption: Caption | undefined): boolean => Boolean(caption?.look?.shape) && !textOf(caption!).trim()
