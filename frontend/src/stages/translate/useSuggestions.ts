/** What helps with the caption that is written: what was translated before, and the terms in its source. */
import { watchDebounced } from '@vueuse/core'
import { computed, nextTick, ref, shallowRef, watch } from 'vue'

import { answered, client, type Schemas } from '@/api/client'
import { useCommands } from '@/kit/commands/commands'
import { useSelection } from '@/score/selectionStore'
import { textOf } from '@/session/captions'
import { useProject } from '@/session/projectStore'
import { newId, useTrack } from '@/session/tracksStore'
import { useTranslation } from '@/session/translationStore'

export type Suggestions = Schemas['SuggestionsView']

const SOON_MS = 150

/** @param wanted whether there is a translation to suggest for */
export function useSuggestions(wanted: () => boolean) {
  const project = useProject()
  const track = useTrack()
  const selection = useSelection()
  const translation = useTranslation()
  const found = shallowRef<Suggestions | null>(null)
  /** Which of what is remembered the key takes. */
  const at = ref(0)

  const caption = computed(() => (wanted() ? selection.current : undefined))
  const source = computed(() => (caption.value ? translation.sourceSays(caption.value.id) : ''))
  const asked = computed(() =>
    caption.value && source.value ? [track.id, caption.value.id, source.value, JSON.stringify(caption.value.spans), project.termListChanges].join(' ') : null,
  )
  watch(
    // As one text: a caption that was read again is the same one still.
    () => `${track.id} ${caption.value?.id} ${source.value}`,
    () => {
      found.value = null
      at.value = 0
    },
    { flush: 'sync' },
  )
  watchDebounced(
    asked,
    async (now) => {
      if (!now) return
      const path = { track_id: track.id, caption_id: caption.value!.id }
      await track.settled()
      const answer = await answered(client.GET('/api/tracks/{track_id}/captions/{caption_id}/suggestions', { params: { path } })).catch(() => null)
      if (asked.value === now) found.value = answer
    },
    { debounce: SOON_MS, immediate: true },
  )

  const remembered = computed(() => found.value?.remembered ?? [])
  const terms = computed(() => found.value?.terms ?? [])
  const missing = computed(() => terms.value.filter((term) => !term.is_there && term.targets.length))

  function take(index = at.value) {
    const one = remembered.value[index]
    if (!one || !caption.value) return
    track.edit({ kind: 'change-captions', changes: [{ caption: caption.value.id, text: one.target }] }, newId())
  }
  const point = (by: 1 | -1) => (at.value = (at.value + by + remembered.value.length) % remembered.value.length)

  /** Puts a term's translation where the cursor is, or at the end; in the place of what is forbidden, where that is there. */
  async function putTerm(term = missing.value[0]) {
    const now = caption.value
    const word = term?.targets[0]
    if (!now || !term || !word) return
    const text = textOf(now)
    const wrong = term.wrong ? text.indexOf(term.wrong) : -1
    const field = document.activeElement
    const cursor = field instanceof HTMLTextAreaElement ? field.selectionStart : text.length
    const [from, to] = wrong >= 0 ? [wrong, wrong + term.wrong!.length] : [cursor, cursor]
    const before = text.slice(0, from)
    const after = text.slice(to)
    const put = `${before && !/\s$/.test(before) ? ' ' : ''}${word}${after && !/^[\s,.;:!?…]/.test(after) ? ' ' : ''}`
    track.edit({ kind: 'change-captions', changes: [{ caption: now.id, text: before + put + after }] }, newId())
    if (!(field instanceof HTMLTextAreaElement)) return
    await nextTick()
    field.setSelectionRange(from + put.length, from + put.length)
  }

  useCommands([
    { id: 'remembered-take', run: () => take(), enabled: () => remembered.value.length > 0, why: 'now' },
    { id: 'remembered-next', run: () => point(1), enabled: () => remembered.value.length > 1, why: 'now' },
    { id: 'remembered-before', run: () => point(-1), enabled: () => remembered.value.length > 1, why: 'now' },
    { id: 'term-put', run: () => void putTerm(), enabled: () => missing.value.length > 0, why: 'now' },
  ])

  return { found, remembered, terms, at, take, putTerm, source }
}
