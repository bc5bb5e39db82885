/** Typing by ear: a passage is repeated until its line is stored, then the next one is. */
import { useStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'

import { answered, client, type Schemas } from '@/api/client'
import { textOf } from '@/session/captions'
import { usePlayer } from '@/picture/playerStore'
import { newId, useTrack } from '@/session/tracksStore'

/** Seconds a passage can last. */
const [LEAST_S, MOST_S] = [1, 30]
export const UNTIL = ['pause', 'length'] as const

/** A passage, and the caption that was typed for it, if one was. */
type Passage = Schemas['PassageView'] & { caption?: string }

export const useEar = defineStore('ear', () => {
  const track = useTrack()
  const player = usePlayer()
  const until = useStorage<(typeof UNTIL)[number]>('dunlin.ear.until', 'pause')
  const lengthS = useStorage('dunlin.ear.length', 4)
  const passage = shallowRef<Passage | null>(null)
  /** Where passages began that were left without a line, or with one; the way back. */
  const earlier = shallowRef<readonly Passage[]>([])
  const text = ref('')
  /** What was typed for passages and not stored, by their ins: going back and forth loses none. */
  const drafts = new Map<number, string>()
  const problem = ref('')
  const atEnd = ref(false)
  const busy = ref(false)
  let after = 0

  /** Up to where all is typed: the end of the last caption. */
  const typedUntil = computed(() => track.captions.reduce((last, caption) => Math.max(last, caption.out_ms), 0))

  /** Goes to what comes after a time, and repeats it. */
  async function goOn(afterMs: number) {
    const length = Math.min(Math.max(lengthS.value || LEAST_S, LEAST_S), MOST_S)
    const length_ms = until.value === 'length' ? Math.round(length * 1000) : undefined
    try {
      const found = (await answered(
        client.GET('/api/tracks/{track_id}/passage', {
          params: { path: { track_id: track.id }, query: { after_ms: Math.round(afterMs), length_ms } },
        }),
      )) as Passage | undefined
      problem.value = ''
      atEnd.value = !found
      if (passage.value && found) earlier.value = [...earlier.value, passage.value]
      take(found ?? null)
      after = afterMs
      if (found) repeat()
      else player.pause()
    } catch (refused) {
      problem.value = (refused as Error).message
    }
  }

  /** Turns to a passage, with what was typed for it so far. */
  function take(now: Passage | null) {
    const last = passage.value
    if (last && text.value.trim() && text.value !== storedText(last)) drafts.set(last.in_ms, text.value)
    passage.value = now
    text.value = now ? (drafts.get(now.in_ms) ?? storedText(now)) : ''
    if (now) drafts.delete(now.in_ms)
  }

  function storedText(now: Passage): string {
    const caption = now.caption ? track.byId.get(now.caption) : undefined
    return caption ? textOf(caption) : ''
  }

  function repeat() {
    if (passage.value) player.hear(passage.value.from_ms, passage.value.to_ms, true)
  }

  /** Takes the passage at another length. */
  function lengthen() {
    take(null)
    return goOn(after)
  }

  async function store() {
    const now = passage.value
    if (!now || busy.value) return
    if (!text.value.trim()) return skip()
    busy.value = true
    const known = now.caption ? track.byId.get(now.caption) : undefined
    if (known) {
      if (text.value !== textOf(known)) {
        track.edit({ kind: 'change-captions', changes: [{ caption: known.id, text: text.value }] }, newId())
      }
    } else {
      const caption = newId()
      // It is stored in its turn; what is heard next need not wait for that.
      void track.storeTyped({ text: text.value, in_ms: now.in_ms, out_ms: now.out_ms, new_id: caption })
      passage.value = { ...now, caption }
    }
    text.value = ''
    await track.settled()
    await goOn(now.out_ms)
    busy.value = false
  }

  /** Leaves a passage without a line: nothing is said there that is wanted. */
  async function skip() {
    if (passage.value) await goOn(passage.value.to_ms)
  }

  /** Hears the passage before once more, and takes up its line; what is being typed is kept for its own. */
  function before() {
    const last = earlier.value.at(-1)
    if (!last) return
    earlier.value = earlier.value.slice(0, -1)
    take(last)
    atEnd.value = false
    repeat()
  }

  function leave() {
    if (player.playing) player.pause()
    take(null)
    earlier.value = []
    atEnd.value = false
  }

  return { until, lengthS, passage, text, problem, atEnd, busy, typedUntil, goOn, repeat, lengthen, store, skip, before, leave }
})
