/** Documents that are written in the browser: what changed in them, and where it is seen. */
import type { Node } from '@tiptap/pm/model'
import type { EditorView } from '@tiptap/pm/view'

import { alikeEnds } from '@/kit/ordered'

export interface Change {
  /** Blocks of the old document, and of the new one, that differ: from `first` to those before the last `kept`. */
  first: number
  kept: number
}

/** Which blocks are others; null when none is. */
export function changeBetween(old: readonly Node[], now: readonly Node[]): Change | null {
  const { first, kept } = alikeEnds(old, now, (one, other) => one.eq(other))
  return first === old.length && first === now.length ? null : { first, kept }
}

/** What stands between two places of the document, for the browser to draw on. */
export function rangeBetween(view: EditorView, from: number, to: number): Range {
  const range = document.createRange()
  const [start, end] = [view.domAtPos(from, 1), view.domAtPos(to, -1)]
  range.setStart(start.node, start.offset)
  range.setEnd(end.node, end.offset)
  return range
}

/** Scrolls a page so that what is said now can be read, with what comes next. */
export function keepInSight(page: HTMLElement, range: Range) {
  const { top, bottom } = range.getBoundingClientRect()
  const seen = page.getBoundingClientRect()
  if (top < seen.top || bottom > seen.bottom - 40) page.scrollTop += top - seen.top - seen.height * 0.3
}

/** Takes the cursor out of the text of a page, so that single letters are commands again. */
export function leaveText(page: HTMLElement | null) {
  ;(document.activeElement as HTMLElement | null)?.blur()
  page?.focus({ preventScroll: true })
}
