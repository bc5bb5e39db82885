/** The open track: every gesture is applied at once, sent, and corrected by what the server says. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'

import { answered, client, type EditView, type Operation, Refused, type Spec, type TrackView } from '@/api/client'
import { applied } from '@/project/optimistic'
import { type Caption, firstFrom, merged, openFindings } from '@/project/captions'
import { oneAtATime } from '@/shared/oneAtATime'

interface Waiting {
  gesture: string
  operation?: Operation
  split?: { caption: string; new_id: string; offset?: number; at_ms?: number }
  page?: Page
}

/** Texts in the place of captions that stand in a row, or behind one. */
export interface Page {
  captions: string[]
  after: string | null
  texts: string[]
}

const RETRY_MS = 1500
/** So few that taking them in is not felt. */
const READ_AT_ONCE = 500

/** Short ids are enough among the captions of one track. */
export const newId = () => crypto.randomUUID().replaceAll('-', '').slice(0, 12)

/** A caption as it is when it is made. */
export const newCaption = (in_ms: number, out_ms: number, spans: Caption['spans'] = []) => ({
  id: newId(), in_ms, out_ms, spans, extras: [], locked: false,
})

export const useTrack = defineStore('track', () => {
  const actor = newId()
  const id = ref('')
  const captions = shallowRef<readonly Caption[]>([])
  const scriptHead = ref('')
  /** What it is judged by, as it is for its language. */
  const spec = shallowRef<Spec | null>(null)
  const canUndo = ref(false)
  const canRedo = ref(false)
  const loaded = ref(false)
  const saving = ref<'saved' | 'saving' | 'waiting'>('saved')
  const refusal = ref('')
  let revision = 0
  let queue: Waiting[] = []
  let sending: Promise<void> | null = null
  /** Captions that changed, of which an answer told no more than the times. */
  const unread = new Set<string>()

  const byId = computed(() => new Map(captions.value.map((caption) => [caption.id, caption])))
  /** Findings that nobody waived. */
  const findings = computed(() =>
    captions.value.reduce((sum, caption) => sum + openFindings(caption).length, 0),
  )

  async function open(trackId: string) {
    id.value = trackId
    loaded.value = false
    captions.value = []
    queue = []
    unread.clear()
    revision = 0
    await reload()
  }

  async function reload(): Promise<void> {
    const track: TrackView = await answered(
      client.GET('/api/tracks/{track_id}', { params: { path: { track_id: id.value } } }),
    )
    if (track.id !== id.value) return
    // An edit was stored while it was read: what was read is older than what is shown.
    if (track.revision < revision) return reload()
    revision = track.revision
    // What still waits to be stored stays in sight.
    captions.value = queue.reduce<readonly Caption[]>(
      (now, { operation }) => (operation ? applied(now, operation) : now),
      track.captions,
    )
    scriptHead.value = track.script_head
    spec.value = track.spec
    canUndo.value = track.can_undo
    canRedo.value = track.can_redo
    loaded.value = true
  }

  /** Makes an edit: seen at once, stored in turn. A newer edit of the same kind takes a waiting one's place. */
  function edit(operation: Operation, gesture: string) {
    captions.value = applied(captions.value, operation)
    const last = queue.at(-1)
    const started = queue.length === 1 && sending !== null
    if (last?.operation && !started && last.gesture === gesture && replaces(operation, last.operation)) {
      last.operation = operation
    } else {
      queue.push({ operation, gesture })
    }
    void send()
  }

  /** Splits at a character or a time; the server knows the words, so nothing is shown before it answers. */
  function split(caption: string, place: { offset?: number; at_ms?: number }): string {
    const second = newId()
    queue.push({ gesture: newId(), split: { caption, new_id: second, ...place } })
    void send()
    return second
  }

  /** Puts texts in the place of captions; ends when that is stored. The server knows when their words are said. */
  function write(page: Page, gesture: string): Promise<void> {
    queue.push({ gesture, page })
    return send()
  }

  async function step(direction: 'undo' | 'redo') {
    await settled()
    const made = await answered(
      client.POST(`/api/tracks/{track_id}/${direction}`, {
        params: { path: { track_id: id.value } },
        body: { actor },
      }),
    ).catch(note)
    if (made) accept(made as EditView)
    return made as EditView | undefined
  }

  /** Ends when all that was done is stored. */
  async function settled() {
    while (sending) await sending
  }

  function send(): Promise<void> {
    sending ??= drain().finally(() => {
      sending = null
    })
    return sending
  }

  async function drain() {
    while (queue.length) {
      saving.value = saving.value === 'waiting' ? 'waiting' : 'saving'
      try {
        const made = await post(queue[0]!)
        queue.shift()
        saving.value = 'saving'
        accept(made)
      } catch (problem) {
        if (problem instanceof Refused && problem.status) {
          queue.shift()
          note(problem)
          await reload()
        } else {
          // No answer: the edit stays, and is sent again.
          saving.value = 'waiting'
          await new Promise((resolve) => setTimeout(resolve, RETRY_MS))
        }
      }
    }
    saving.value = 'saved'
  }

  function post(waiting: Waiting): Promise<EditView> {
    const params = { path: { track_id: id.value } }
    const common = { base_revision: revision, gesture: waiting.gesture, actor }
    if (waiting.split) {
      return answered(client.POST('/api/tracks/{track_id}/split', { params, body: { ...common, ...waiting.split } }))
    }
    if (waiting.page) {
      return answered(client.POST('/api/tracks/{track_id}/page', { params, body: { ...common, ...waiting.page } }))
    }
    return answered(
      client.POST('/api/tracks/{track_id}/edits', { params, body: { ...common, operation: waiting.operation! } }),
    )
  }

  function accept(made: EditView) {
    if (made.track_id !== id.value) return
    revision = Math.max(revision, made.revision)
    canUndo.value = made.can_undo
    canRedo.value = made.can_redo
    const newer = waitingFor()
    for (const caption of made.captions) unread.delete(caption.id)
    const moved = made.further.flatMap(({ caption, in_ms, out_ms }) => {
      unread.add(caption)
      const known = byId.value.get(caption)
      return known && !newer.has(caption) ? [{ ...known, in_ms, out_ms }] : []
    })
    captions.value = merged(
      captions.value,
      [...made.captions.filter((caption) => !newer.has(caption.id)), ...moved],
      made.removed.filter((gone) => !newer.has(gone)),
    )
    if (unread.size) void readFurther()
  }

  /** What has been done since a request was sent is newer than its answer. */
  function waitingFor(): Set<string> {
    return new Set(queue.flatMap((waiting) => (waiting.operation ? named(waiting.operation) : [])))
  }

  /** Reads captions of a great edit some at a time, so that nobody has to wait for the page. */
  const readFurther = oneAtATime(async () => {
    while (unread.size) {
      // The answers to edits under way have theirs.
      await settled()
      const track = id.value
      const asked = [...unread].slice(0, READ_AT_ONCE)
      try {
        const found = await answered(
          client.POST('/api/tracks/{track_id}/captions', { params: { path: { track_id: track } }, body: { captions: asked } }),
        )
        // Read before an edit that was taken in since, or of a track that was left: not this one.
        if (track !== id.value || found.revision < revision) continue
        const newer = waitingFor()
        for (const caption of asked) unread.delete(caption)
        captions.value = merged(captions.value, found.captions.filter((caption) => !newer.has(caption.id)), [])
      } catch (problem) {
        if (track === id.value && problem instanceof Refused && problem.status) {
          unread.clear()
          note(problem)
        } else {
          await new Promise((resolve) => setTimeout(resolve, RETRY_MS))
        }
      }
    }
  })

  /** A caption whose findings are others now, without an edit. */
  function judgedAgain(caption: Caption) {
    captions.value = merged(captions.value, [caption], [])
  }

  /** An edit that the event stream told of. */
  async function happened(made: EditView) {
    if (made.track_id !== id.value || !loaded.value || made.actor === actor || made.revision <= revision) return
    if (made.revision === revision + 1 && !queue.length) accept(made)
    else {
      await settled()
      if (made.revision > revision) await reload()
    }
  }

  function note(problem: unknown) {
    if (!(problem instanceof Error)) throw problem
    refusal.value = problem.message
    return undefined
  }

  /** Captions that are on screen at some time from `from` to `to`, in order. */
  function between(from: number, to: number, longest = 60_000): Caption[] {
    const found: Caption[] = []
    for (let i = firstFrom(captions.value, from - longest); i < captions.value.length; i++) {
      const caption = captions.value[i]!
      if (caption.in_ms >= to) break
      if (caption.out_ms > from) found.push(caption)
    }
    return found
  }

  return {
    actor, id, captions, byId, findings, scriptHead, spec, canUndo, canRedo, loaded, saving, refusal,
    open, reload, edit, split, write, step, accept, judgedAgain, settled, happened, between,
  }
})

function replaces(next: Operation, last: Operation): boolean {
  if (next.kind === 'rewrite-text' && last.kind === 'rewrite-text') return next.caption === last.caption
  if (next.kind === 'retime-captions' && last.kind === 'retime-captions') {
    const ids = (operation: typeof next) => operation.times.map((times) => times.caption).join()
    return ids(next) === ids(last)
  }
  return false
}

function named(operation: Operation): string[] {
  switch (operation.kind) {
    case 'set-text':
    case 'rewrite-text':
    case 'split-caption':
      return [operation.caption]
    case 'retime-captions':
      return operation.times.map((times) => times.caption)
    case 'insert-captions':
      return operation.captions.map((caption) => caption.id)
    case 'delete-captions':
    case 'lock-captions':
    case 'merge-captions':
      return [...operation.captions]
    case 'replace-captions':
      return [...operation.removed, ...operation.captions.map((caption) => caption.id)]
    default:
      return []
  }
}
