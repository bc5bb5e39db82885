/** Which captions are selected, which one is current, and whether its text has the cursor. */
import { useStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'

import { indexAt } from '@/session/captions'
import { useTrack } from '@/session/tracksStore'

/** Whether the caption that is spoken becomes the current one while the film plays. */
export const useFollowSpoken = () => useStorage('dunlin.follow-spoken', true)

export const useSelection = defineStore('selection', () => {
  const track = useTrack()
  const ids = shallowRef<ReadonlySet<string>>(new Set())
  const currentId = ref<string | null>(null)
  const writingId = ref<string | null>(null)
  /** The caption whose in the next press sets, while cueing. */
  const awaitedId = ref<string | null>(null)
  /** Where in the text the cursor shall stand when writing begins, or what shall be selected. */
  const cursorAt = shallowRef<{ from: number; to: number } | null>(null)

  const current = computed(() => (currentId.value ? track.byId.get(currentId.value) : undefined))
  const selected = computed(() => track.captions.filter((caption) => ids.value.has(caption.id)))
  const currentIndex = computed(() => track.captions.findIndex((caption) => caption.id === currentId.value))

  function only(id: string | null) {
    currentId.value = id
    ids.value = new Set(id ? [id] : [])
  }

  function toggle(id: string) {
    const next = new Set(ids.value)
    if (next.has(id) && next.size > 1) next.delete(id)
    else next.add(id)
    ids.value = next
    currentId.value = next.has(id) ? id : [...next].at(-1)!
  }

  /** Selects all from the current one to another. */
  function extendTo(id: string) {
    const from = currentIndex.value
    const to = track.captions.findIndex((caption) => caption.id === id)
    if (from < 0) return only(id)
    const range = track.captions.slice(Math.min(from, to), Math.max(from, to) + 1)
    ids.value = new Set([...ids.value, ...range.map((caption) => caption.id)])
    currentId.value = id
  }

  function all() {
    ids.value = new Set(track.captions.map((caption) => caption.id))
    currentId.value ??= track.captions[0]?.id ?? null
  }

  /** The next or previous one from the current one; with none, the one shown at a time or near it. */
  function beside(direction: 1 | -1, ms: number) {
    const index = currentIndex.value
    const begun = indexAt(track.captions, ms)
    const shown = begun >= 0 && track.captions[begun]!.out_ms > ms
    const next = index >= 0 ? index + direction : shown || direction < 0 ? begun : begun + 1
    return track.captions[Math.min(Math.max(next, 0), track.captions.length - 1)]
  }

  function write(id: string, from: number | null = null, to = from) {
    if (currentId.value !== id) only(id)
    cursorAt.value = from === null ? null : { from, to: to! }
    writingId.value = id
  }

  function stopWriting() {
    writingId.value = null
  }

  // What was deleted, here or elsewhere, is not selected any more.
  watch(
    () => track.byId,
    (known) => {
      if (currentId.value && !known.has(currentId.value)) currentId.value = null
      if (writingId.value && !known.has(writingId.value)) writingId.value = null
      if ([...ids.value].some((id) => !known.has(id))) {
        ids.value = new Set([...ids.value].filter((id) => known.has(id)))
        currentId.value ??= [...ids.value][0] ?? null
      }
    },
  )

  return {
    ids, currentId, writingId, awaitedId, cursorAt, current, selected, currentIndex,
    only, toggle, extendTo, all, beside, write, stopWriting,
  }
})
