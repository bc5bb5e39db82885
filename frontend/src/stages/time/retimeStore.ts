/** Moving many captions in time: what is asked for, what it would do, and doing it. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'

import { answered, client, type JobView, type Schemas } from '@/api/client'
import { useProject } from '@/session/projectStore'
import { retiming } from '@/session/merging'
import { newId, useTrack } from '@/session/tracksStore'
import { useSelection } from '@/score/selectionStore'
import { usePlayer } from '@/picture/playerStore'
import { useSnapTo } from '@/score/useCardDrag'
import { useTiming } from '@/stages/time/timingStore'

export const WAYS = ['by', 'anchors', 'rate', 'sound'] as const
export const SCOPES = ['all', 'selection', 'from-here', 'before-here', 'between'] as const
export const EDGES = ['both', 'ins', 'outs'] as const
export const BELOW_ZERO = ['hold', 'drop', 'less'] as const

type Request = Schemas['RetimingRequest']
export type Piece = Schemas['PieceView']

/** What a search for sync found, as its job tells it. */
export interface SyncFound {
  pieces: Piece[]
  agreement_before: number
  agreement_after: number
  sure: number
  drift: string
}

export const useRetime = defineStore('retime', () => {
  const project = useProject()
  const track = useTrack()
  const selection = useSelection()
  const player = usePlayer()
  const timing = useTiming()
  const snapTo = useSnapTo()

  const way = ref<(typeof WAYS)[number]>('by')
  const scope = ref<(typeof SCOPES)[number]>('all')
  const edges = ref<(typeof EDGES)[number]>('both')
  const belowZero = ref<(typeof BELOW_ZERO)[number]>('hold')
  const amount = ref('')
  const fromFps = ref('25')
  const toFps = ref('24')
  const anchors = ref<{ caption: string; old_ms: number; new_ms: number }[]>([])
  const pieces = ref<Piece[]>([])
  /** Two times that the scope lies between: the selection's ends, until the user puts them. */
  const fromMs = ref(0)
  const toMs = ref(0)
  const problem = ref('')
  const seen = shallowRef<Schemas['RetimingView'] | null>(null)
  let asked = 0

  const job = computed<JobView | undefined>(() =>
    project.jobs.find((one) => one.kind === 'sync' && one.parameters.track_id === track.id),
  )
  const found = computed(() =>
    job.value?.state === 'done' ? (job.value.result as unknown as SyncFound) : null,
  )

  const request = computed<Request | null>(() => {
    const asks = wayAsked()
    if (!asks) return null
    const at = selection.current?.in_ms ?? Math.round(player.timeMs)
    const limits: Partial<Request> =
      way.value === 'sound' || scope.value === 'all'
        ? {}
        : scope.value === 'selection'
          ? { captions: [...selection.ids] }
          : scope.value === 'from-here'
            ? { from_ms: at }
            : scope.value === 'before-here'
              ? { to_ms: at }
              : { from_ms: fromMs.value, to_ms: toMs.value }
    return { way: asks, edges: edges.value, below_zero: belowZero.value, on_frames: snapTo.value.frames, ...limits }
  })

  function wayAsked(): Request['way'] | null {
    switch (way.value) {
      case 'by':
        return amount.value.trim() ? { kind: 'by', amount: amount.value } : null
      case 'anchors':
        return anchors.value.length
          ? { kind: 'anchors', anchors: anchors.value.map(({ old_ms, new_ms }) => ({ old_ms, new_ms })) }
          : null
      case 'rate':
        return { kind: 'rate', from_fps: fromFps.value, to_fps: toFps.value }
      case 'sound':
        return pieces.value.length ? { kind: 'pieces', pieces: pieces.value } : null
    }
  }

  /** Shows on the Score what would be done. */
  async function look() {
    const mine = ++asked
    problem.value = ''
    if (timing.panel !== 'retime' || !request.value) {
      seen.value = null
      timing.setGhosts([])
      return
    }
    try {
      await track.settled()
      const answer = await answered(
        client.POST('/api/tracks/{track_id}/retiming', {
          params: { path: { track_id: track.id } },
          body: request.value,
        }),
      )
      if (mine !== asked) return
      seen.value = answer
      timing.setGhosts(answer.times)
    } catch (refused) {
      if (mine !== asked) return
      seen.value = null
      timing.setGhosts([])
      problem.value = (refused as Error).message
    }
  }

  watch([request, () => timing.panel, () => track.captions], () => void look(), { deep: true })
  // A new answer of the sound is taken up as it is; each of its pieces can then be moved.
  watch(found, (now) => {
    pieces.value = now ? now.pieces.map((piece) => ({ ...piece })) : []
  }, { immediate: true })
  watch(scope, (now) => {
    if (now !== 'between') return
    const chosen = selection.selected
    fromMs.value = chosen[0]?.in_ms ?? 0
    toMs.value = chosen.length > 1 ? chosen.at(-1)!.out_ms : project.durationMs
  })

  /** The times of `seen` that are others than now. */
  const changed = computed(() =>
    (seen.value?.times ?? []).filter(({ caption, in_ms, out_ms }) => {
      const known = track.byId.get(caption)
      return known && (known.in_ms !== in_ms || known.out_ms !== out_ms)
    }),
  )
  /** Captions that would go out when the film is over. */
  const pastEnd = computed(() => changed.value.filter(({ out_ms }) => project.isPastEnd(out_ms)).length)
  const count = computed(() => changed.value.length + (seen.value?.dropped.length ?? 0))

  function addAnchor() {
    const caption = selection.current
    if (!caption) return
    anchors.value = [
      ...anchors.value.filter((anchor) => anchor.caption !== caption.id),
      { caption: caption.id, old_ms: caption.in_ms, new_ms: Math.round(player.timeMs) },
    ].sort((a, b) => a.old_ms - b.old_ms)
  }

  async function listen() {
    await track.settled()
    await project.askFor(
      answered(client.POST('/api/tracks/{track_id}/sync', { params: { path: { track_id: track.id } } })),
    )
  }

  /** Whether the words of the transcript go where the captions go. */
  const withWords = ref(false)

  /** Shows where the sound says that the captions belong; and the words with them, where both are new to it. */
  async function fromSound(words = false) {
    withWords.value = words && project.words.length > 0
    timing.open('retime')
    way.value = 'sound'
    await listen()
  }

  /** Does what is seen, as one step of undo. */
  async function apply() {
    const now = seen.value
    if (!now) return 0
    const gesture = newId()
    const done = count.value
    const times = changed.value
    if (times.length) track.edit(retiming(times), gesture)
    if (now.dropped.length) track.edit({ kind: 'delete-captions', captions: now.dropped }, gesture)
    const along = way.value === 'sound' && withWords.value ? pieces.value : []
    amount.value = ''
    anchors.value = []
    pieces.value = []
    if (along.length) await moveWords(along, gesture)
    return done
  }

  /** Moves the transcript as the captions were moved: undone together with that. */
  async function moveWords(along: Piece[], gesture: string) {
    try {
      await track.settled()
      await project.retimeWords(along, gesture)
      withWords.value = false
    } catch (refused) {
      problem.value = (refused as Error).message
    }
  }

  return {
    way, scope, withWords, edges, belowZero, amount, fromFps, toFps, anchors, pieces, fromMs, toMs, problem, seen, pastEnd, count, job, found,
    addAnchor, listen, fromSound, apply,
  }
})
