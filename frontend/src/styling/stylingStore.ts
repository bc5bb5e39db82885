/** How captions, or words selected in one, are styled by hand: what is chosen, and for what. */
import { defineStore } from 'pinia'
import { computed, nextTick, ref, shallowRef } from 'vue'

import { keysWaitFor } from '@/kit/commands/commands'
import type { Change } from '@/session/merging'
import { type Caption, textOf } from '@/session/captions'
import { useHistory } from '@/session/historyStore'
import { allBetween, changedBetween, type Range, type Span, type WordStyle } from '@/session/spans'
import { newId, useTrack } from '@/session/tracksStore'
import { useSelection } from '@/score/selectionStore'
import { lookWith } from '@/styling/looks'

/** What is chosen from a list, under the film. */
export type Chooser = 'colour' | 'place' | 'case' | 'speaker'

/** What a look calls the same: where words have it in both, it is the look that is seen. */
const LOOKED_AS = { italic: 'italic', bold: 'weight', underline: 'underline' } as const

/** Captions that are styled, and the words selected where there is one; `back` gives the keys back. */
export interface Target {
  captions: readonly string[]
  range: Range | null
  back: () => void
}

export const useStyling = defineStore('styling', () => {
  const track = useTrack()
  const history = useHistory()
  const selection = useSelection()
  const chooser = ref<Chooser | null>(null)
  /** What the list that is open is about. */
  const held = shallowRef<Target | null>(null)
  /** Pages of text say themselves what their cursor is in. */
  const pages = shallowRef<readonly (() => Target | null)[]>([])

  function current(): Target | null {
    for (const page of pages.value) {
      const target = page()
      if (target) return target
    }
    const field = document.activeElement
    const writing = selection.writingId
    if (writing && field instanceof HTMLTextAreaElement) {
      const [from, to] = [field.selectionStart, field.selectionEnd]
      return { captions: [writing], range: from < to ? { from, to } : null, back: () => selection.write(writing, from, to) }
    }
    const captions = selection.selected.map((caption) => caption.id)
    return captions.length ? { captions, range: null, back: () => undefined } : null
  }

  /** The captions that are styled, as they are. */
  const styled = computed(() => (held.value?.captions ?? []).flatMap((id) => track.byId.get(id) ?? []))
  const ofWords = computed(() => held.value?.range != null)

  const rangeIn = (target: Target, caption: Caption): Range => target.range ?? { from: 0, to: textOf(caption).length }

  /** Changes what is styled, in one step. */
  async function change(make: (caption: Caption, range: Range, ofWords: boolean) => Omit<Change, 'caption'> | null, target = held.value ?? current()) {
    if (!target) return
    // What is still being written is stored first, so that it is not styled as it was.
    await keysWaitFor(history.stored())
    const changes = target.captions.flatMap((id) => {
      const caption = track.byId.get(id)
      const fields = caption && make(caption, rangeIn(target, caption), target.range !== null)
      return fields ? [{ caption: id, ...fields }] : []
    })
    if (changes.length) track.edit({ kind: 'change-captions', changes }, newId())
  }

  /** Italics, bold or underlines, unless all of it has them; then none. */
  async function toggle(style: 'italic' | 'bold' | 'underline') {
    const target = current()
    if (!target) return
    await keysWaitFor(history.stored())
    const captions = target.captions.flatMap((id) => track.byId.get(id) ?? [])
    const on = !captions.every((caption) => allBetween(caption.spans, rangeIn(target, caption), (span) => span[style]))
    await change((caption, range) => ({ spans: changedBetween(caption.spans, range, (span) => ({ [style]: on, look: lookWith(span.look, { [LOOKED_AS[style]]: null }) })) }), target)
  }

  const style = (values: WordStyle & { colour: string | null }) =>
    change((caption, range) => ({ spans: changedBetween(caption.spans, range, (span) => ({ ...values, look: lookWith(span.look, { colour: null }) })) }))

  /** Writes the letters of a range otherwise. */
  const letters = (write: (text: string) => string) =>
    change((caption, range) => ({ spans: changedBetween(caption.spans, range, ({ text }: Span) => ({ text: write(text) })) }))

  function choose(which: Chooser) {
    const target = held.value ?? current()
    if (!target) return
    held.value = target
    chooser.value = which
  }

  /** Closes the list; the keys go back to where they were. */
  function close() {
    const back = held.value?.back
    chooser.value = null
    held.value = null
    back?.()
  }

  /** Does something where the cursor was, once it stands there again. */
  function doneFor(target: Target | null, action: () => unknown) {
    target?.back()
    void nextTick(action)
  }

  /** Says where a page of text has its cursor, for as long as it is there. */
  function addPage(target: () => Target | null): () => void {
    pages.value = [...pages.value, target]
    return () => (pages.value = pages.value.filter((page) => page !== target))
  }

  return { chooser, styled, ofWords, current, change, toggle, style, letters, choose, close, doneFor, addPage }
})
