/** Cueing along: keys become ins and outs while the film plays. The rules of it are the server's. */
import { useStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'

import { answered, client, type Schemas } from '@/api/client'
import { usePlayer } from '@/picture/playerStore'
import { newId, useTrack } from '@/session/tracksStore'
import { useSelection } from '@/score/selectionStore'

export const CUE_WAYS = ['ins', 'ins-and-pauses', 'ins-and-outs', 'held'] as const
/** So many lines to come are shown. */
const COMING = 2
type State = Schemas['Cueing']
type Key = Schemas['CueRequest']['key']

export const useCue = defineStore('cue', () => {
  const track = useTrack()
  const player = usePlayer()
  const selection = useSelection()

  const way = useStorage<(typeof CUE_WAYS)[number]>('dunlin.cue.way', 'ins')
  const reactionMs = useStorage('dunlin.cue.reaction', 0)
  const snapping = useStorage('dunlin.cue.snap', true)
  const backMs = useStorage('dunlin.cue.back', 4000)
  const state = shallowRef<State | null>(null)
  const problem = ref('')
  /** The line whose times were set last. */
  const lastSet = ref('')
  let answers: Promise<void> = Promise.resolve()

  const running = computed(() => state.value !== null)
  const awaited = computed(() => track.byId.get(state.value?.lines[state.value.next] ?? ''))
  const open = computed(() => (state.value?.open ? track.byId.get(state.value.lines[state.value.next - 1] ?? '') : undefined))
  /** The lines behind the one that is awaited. */
  const coming = computed(() => {
    const now = state.value
    return now ? now.lines.slice(now.next + 1, now.next + 1 + COMING).flatMap((line) => track.byId.get(line) ?? []) : []
  })
  watch(awaited, (line) => (selection.awaitedId = line?.id ?? null))
  const left = computed(() => (state.value ? state.value.lines.length - state.value.next : 0))

  /** Speech within this of a press is what was meant; farther off, the press itself is. */
  const SNAP_MS = 160

  async function start() {
    await track.settled()
    const from = Math.max(selection.currentIndex, 0)
    const lines = track.captions.slice(from).filter((caption) => !caption.locked).map((caption) => caption.id)
    if (!lines.length) return
    problem.value = ''
    lastSet.value = ''
    state.value = { way: way.value, lines, next: 0, open: false, down: false }
    if (!player.playing) void player.play(1)
  }

  function stop() {
    if (!running.value) return
    // Begun again, it goes on where it stopped.
    const next = awaited.value ?? open.value
    if (next) selection.only(next.id)
    state.value = null
    if (player.playing) player.pause()
  }

  /** The lines that a key can be about: the one before, the next two, or those that stepping back may reach. */
  function linesNear({ lines, next }: State, what: Key, atMs: number) {
    const reached = lines.slice(0, next).findLastIndex((line) => (track.byId.get(line)?.in_ms ?? 0) < atMs)
    return { from: Math.max(what === 'back' ? reached : next - 1, 0), to: Math.min(next + 2, lines.length) }
  }

  /** A key, at the film's time when it went down or up. Keys are answered in the order they came. */
  function key(what: Key, atMs: number) {
    answers = answers.then(async () => {
      const whole = state.value
      if (!whole) return
      const { from, to } = linesNear(whole, what, atMs)
      const near = { ...whole, lines: whole.lines.slice(from, to), next: whole.next - from }
      try {
        const made = await answered(
          client.POST('/api/tracks/{track_id}/cue', {
            params: { path: { track_id: track.id } },
            body: {
              state: near, key: what, at_ms: atMs, reaction_ms: reactionMs.value,
              snap_ms: snapping.value ? SNAP_MS : 0, gesture: newId(),
            },
          }),
        )
        if (!state.value) return
        if (made.edit) {
          track.accept(made.edit)
          lastSet.value = made.edit.touched.at(-1) ?? ''
        }
        state.value = { ...made.state, lines: whole.lines, next: made.state.next + from }
        if (made.ended) stop()
      } catch (refused) {
        problem.value = (refused as Error).message
        stop()
      }
    })
  }

  function press(event: KeyboardEvent) {
    if (!event.repeat) key('in', player.timeAt(event.timeStamp))
  }

  function out(event: KeyboardEvent) {
    if (!event.repeat) key('out', player.timeAt(event.timeStamp))
  }

  function release(event: KeyboardEvent) {
    if (state.value?.way === 'held') key('release', player.timeAt(event.timeStamp))
  }

  /** The keyboard went elsewhere: a key that is down will never be seen to come up. */
  function lost() {
    if (state.value?.down) key('lost', player.timeMs)
  }

  function back() {
    const to = Math.max(player.timeMs - backMs.value, 0)
    player.place(to)
    key('back', to)
  }

  return {
    way, reactionMs, snapping, backMs, state, problem, lastSet, running, awaited, open, coming, left,
    start, stop, press, out, release, lost, back,
  }
})
