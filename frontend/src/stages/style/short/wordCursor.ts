/** The word of the flow that keys are about. */
import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'

import { keysWaitFor } from '@/kit/commands/commands'
import { usePlayer } from '@/picture/playerStore'
import { isShape, textOf } from '@/session/captions'
import { newId, useTrack } from '@/session/tracksStore'
import { type Deed, useShort } from '@/stages/style/short/shortStore'
import { wordsOf } from '@/stages/style/short/shortWords'

/** By then whatever comes with a word is there. */
const ARRIVED_MS = 300

export const useWordCursor = defineStore('word-cursor', () => {
  const track = useTrack()
  const player = usePlayer()
  const short = useShort()
  /** When the word begins, which stays as it is wherever the word is carried to. */
  const startMs = ref<number | null>(null)

  const lines = computed(() => track.captions.filter((caption) => !isShape(caption)))
  const words = computed(() =>
    lines.value.flatMap((caption, line) => wordsOf(caption).map((word) => ({ ...word, caption: caption.id, line, at: word.start_ms ?? caption.in_ms }))),
  )
  /** The number of the word among all: the one that begins then, or the last before. */
  const index = computed(() => {
    const ms = startMs.value
    return ms === null ? (words.value.length ? 0 : -1) : Math.max(words.value.findLastIndex(({ at }) => at <= ms), words.value.length ? 0 : -1)
  })
  const word = computed(() => words.value[index.value])

  function put(to: number, withFilm = true) {
    const next = words.value[to]
    if (!next) return
    startMs.value = next.at
    // In the middle of the word, where it has come.
    const after = words.value[to + 1]?.at ?? next.at + 2 * ARRIVED_MS
    if (withFilm && !player.playing) player.place(next.at + Math.min((after - next.at) / 2, ARRIVED_MS))
  }
  const go = (by: 1 | -1) => put(index.value + by)
  /** Goes to the line above or below, to the word that stands as far along it. */
  function goLine(by: 1 | -1) {
    const here = word.value
    if (!here) return
    const own = words.value.filter(({ line }) => line === here.line)
    const other = words.value.filter(({ line }) => line === here.line + by)
    const along = Math.min(own.indexOf(here), other.length - 1)
    if (other.length) put(words.value.indexOf(other[along]!))
  }
  // While the film plays, the word is the one that is spoken.
  watch(
    () => player.timeMs,
    (ms) => {
      if (player.playing) startMs.value = Math.round(ms)
    },
  )

  /** What is written in the place of the word; null while nothing is. */
  const written = ref<string | null>(null)
  const write = () => (written.value = word.value?.text ?? null)
  /** Puts what was written in the word's place: it keeps its time, and what is known of it. */
  function take() {
    const here = word.value
    const text = written.value?.trim()
    written.value = null
    if (!here || text === undefined || text === here.text) return
    if (!text) return void deed('leave-out')
    const whole = textOf(track.byId.get(here.caption)!)
    const changed = whole.slice(0, here.offset) + text + whole.slice(here.offset + here.text.length)
    track.edit({ kind: 'change-captions', changes: [{ caption: here.caption, text: changed }] }, newId())
  }
  watch([index, () => player.playing], () => (written.value = null))

  /** Does something to the word. Keys that are pressed meanwhile are about what it has become then. */
  const deed = (what: Deed, known?: Parameters<typeof short.doTo>[3]) => keysWaitFor(done(what, known))
  async function done(what: Deed, known?: Parameters<typeof short.doTo>[3]) {
    const here = word.value
    if (!here) return
    // Of a word that is left out the next one has the cursor then.
    const next = words.value[index.value + 1] ?? words.value[index.value - 1]
    if ((await short.doTo(here.caption, here.offset, what, known)) && what === 'leave-out' && next) startMs.value = next.at
  }
  /** Makes it a word of weight, of the second kind, or none. */
  const weigh = () => deed('set', { emphasis: ((word.value!.emphasis + 1) % 3) as 0 | 1 | 2 })
  function hear() {
    const here = word.value
    if (here) player.hear(here.at, words.value[index.value + 1]?.at ?? here.at + 800)
  }

  return { lines, words, index, word, put, go, goLine, written, write, take, deed, weigh, hear }
})
