/**
 * One open track: every gesture is shown at once, sent, and corrected by what the server says. It lives on while
 * something of it waits to be stored, also when another project is looked at.
 */
import { computed, ref, shallowRef } from 'vue'

import { answered, type CaptionsView, client, type EditView, named, type Operation, Refused, type Spec, type TrackView, unreachable } from '@/api/client'
import { linesOf } from '@/api/lines'
import { type Caption, firstFrom, merged, openFindings } from '@/session/captions'
import type { Waiting } from '@/session/editQueue'
import { newId, person } from '@/session/identity'
import { applied, captionsOf, replaces, wordsOf } from '@/session/merging'
import { oneAtATime } from '@/kit/oneAtATime'
import { aMoment, storedEdits } from '@/session/storedEdits'

/** An edit as it is sent: an operation, or what only the server can make one of, as it knows the words. */
export interface Edit {
  /** The revision that was shown when it was made; with what came later it may not agree. */
  base: number
  operation?: Operation
  split?: { caption: string; new_id: string; offset?: number; at_ms?: number }
  page?: Page
  lines?: Lines
  typed?: Typed
}

/** A line typed by ear, at the times of its passage. */
export interface Typed {
  text: string
  in_ms: number
  out_ms: number
  new_id: string
}

/** Captions whose lines are broken anew by the spec, or made one. */
export interface Lines {
  captions: string[]
  lines: 'best' | 'one'
}

/** Texts in the place of captions that stand in a row, or behind one. */
export interface Page {
  captions: string[]
  after: string | null
  texts: string[]
}

/** An edit with words that was refused: to be made again, or given up. */
export interface Left {
  gesture: string
  words: string
  why: string
  edit: Edit
}

/** So few that taking them in is not felt. */
const READ_AT_ONCE = 500

export type OpenTrack = ReturnType<typeof openTrack>

/** @param note says what went wrong, where there are no words to be lost */
export function openTrack(id: string, note: (message: string) => void) {
  const captions = shallowRef<readonly Caption[]>([])
  const scriptHead = ref('')
  /** What it is judged by, as it is for its language. */
  const spec = shallowRef<Spec | null>(null)
  const canUndo = ref(false)
  const canRedo = ref(false)
  const loaded = ref(false)
  const left = shallowRef<readonly Left[]>([])
  /** What is shown holds all that was done up to here, by whomever; what was done since is not known. */
  let seen = 0
  /** The newest revision that was told of, whether or not it could be taken in. */
  let heard = 0
  /** Captions that are others on the server than they are shown. */
  const unread = new Set<string>()

  const byId = computed(() => new Map(captions.value.map((caption) => [caption.id, caption])))
  /** Findings that nobody waived. */
  const findings = computed(() => captions.value.reduce((sum, caption) => sum + openFindings(caption).length, 0))

  const { queue, saving } = storedEdits<Edit, EditView>({
    send: post,
    took: accept,
    refused,
    joined: (next, last) =>
      next.operation && last.operation && replaces(next.operation, last.operation) ? { ...next, base: last.base } : null,
  })

  /** Reads the track whole; when it is opened, the first captions are shown until the others are there. */
  async function reload(): Promise<void> {
    const params = { path: { track_id: id } }
    const body = await answered(client.GET('/api/tracks/{track_id}/pieces', { params, parseAs: 'stream' }))
    let track: TrackView | null = null
    try {
      for await (const line of linesOf(body!)) {
        const piece = JSON.parse(line) as TrackView | CaptionsView
        if (track) {
          track.captions.push(...piece.captions)
        } else {
          track = piece as TrackView
          if (!loaded.value) take(track)
        }
      }
    } catch {
      throw unreachable()
    }
    if (!take(track!)) return reload()
    loaded.value = true
  }

  /** Shows a track as it was read, unless it changed meanwhile: then it is older than what is shown, or was told of. */
  function take(track: TrackView): boolean {
    if (track.revision < Math.max(seen, heard)) return false
    seen = track.revision
    unread.clear()
    // What still waits to be stored stays in sight.
    captions.value = queue.waiting.reduce<readonly Caption[]>(
      (now, { edit }) => (edit.operation ? applied(now, edit.operation) : now),
      [...track.captions],
    )
    scriptHead.value = track.script_head
    spec.value = track.spec
    canUndo.value = track.can_undo
    canRedo.value = track.can_redo
    return true
  }

  /** Shows what an edit would do that is to come, as while a hand still moves it. */
  function show(operation: Operation) {
    captions.value = applied(captions.value, operation)
  }

  /** Makes an edit: seen at once, stored in turn. */
  function edit(operation: Operation, gesture: string) {
    show(operation)
    void queue.push({ base: seen, operation }, gesture)
  }

  /** Splits at a character or a time; the server knows the words, so nothing is shown before it answers. */
  function split(caption: string, place: { offset?: number; at_ms?: number }): string {
    const second = newId()
    void queue.push({ base: seen, split: { caption, new_id: second, ...place } }, newId())
    return second
  }

  /** Puts texts in the place of captions; ends when that is stored. The server knows when their words are said. */
  function write(page: Page, gesture: string): Promise<void> {
    return queue.push({ base: seen, page }, gesture)
  }

  /** Breaks lines anew; the server knows by what. */
  function breakLines(lines: Lines): Promise<void> {
    return queue.push({ base: seen, lines }, newId())
  }

  /** Stores a line typed by ear; the server breaks it by the spec. */
  function storeTyped(typed: Typed): Promise<void> {
    return queue.push({ base: seen, typed }, newId())
  }

  function post({ edit: { base, operation, split: place, page, lines, typed }, key, gesture }: Waiting<Edit>): Promise<EditView> {
    const params = { path: { track_id: id } }
    const common = { base_revision: base, gesture }
    if (place) return answered(client.POST('/api/tracks/{track_id}/split', { params, ...named(key), body: { ...common, ...place } }))
    if (page) return answered(client.POST('/api/tracks/{track_id}/page', { params, ...named(key), body: { ...common, ...page } }))
    if (lines) return answered(client.POST('/api/tracks/{track_id}/lines', { params, ...named(key), body: { ...common, ...lines } }))
    if (typed) return answered(client.POST('/api/tracks/{track_id}/passage', { params, ...named(key), body: { ...typed, gesture } }))
    return answered(client.POST('/api/tracks/{track_id}/edits', { params, ...named(key), body: { ...common, operation: operation! } }))
  }

  /** The server's last word is no: words that were written are kept to be made again, and the track is read. */
  async function refused(why: unknown, { edit: lost, gesture }: Waiting<Edit>) {
    const message = (why as Error).message
    const words = lost.operation ? wordsOf(lost.operation) : (lost.page?.texts.join('\n') ?? lost.typed?.text ?? '')
    // Of typing that went on, what was typed last says it all.
    const others = left.value.filter((entry) => entry.gesture !== gesture)
    if (words) left.value = [...others, { gesture, words, why: message, edit: lost }]
    else note(message)
    await readAnew()
  }

  /** Reads the track whole, again and again until it was read. */
  async function readAnew() {
    for (;;) {
      try {
        return await reload()
      } catch (unreadable) {
        if (unreadable instanceof Refused && unreadable.isFinal) return note(unreadable.message)
        await aMoment()
      }
    }
  }

  /** Makes an edit again that was refused, on top of what there is now. */
  function makeAgain(entry: Left) {
    giveUp(entry)
    if (entry.edit.operation) edit(entry.edit.operation, newId())
    else void queue.push({ ...entry.edit, base: seen }, newId())
  }

  function giveUp(entry: Left) {
    left.value = left.value.filter((other) => other !== entry)
  }

  /** Takes what the server says of captions; what waits to be stored is newer, and is read again after it. */
  function accept(made: EditView) {
    if (made.actor === person) {
      canUndo.value = made.can_undo
      canRedo.value = made.can_redo
    }
    const told = [...made.captions.map((caption) => caption.id), ...made.removed]
    if (made.revision < seen) {
      // Something newer was told meanwhile.
      for (const caption of told) unread.add(caption)
    } else {
      seen = made.revision
      const newer = waitingFor()
      for (const caption of told) {
        if (newer.has(caption)) unread.add(caption)
        else unread.delete(caption)
      }
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
    }
    void catchUp()
  }

  /** Reads captions again that are judged by something else now. */
  function readAgain(captions: Iterable<string>) {
    for (const caption of captions) if (byId.value.has(caption)) unread.add(caption)
    void catchUp()
  }

  /** Until nothing is unread: what becomes so in the moment in which reading ends is read, too. */
  async function catchUp() {
    while (unread.size) await readFurther()
  }

  /** What has been done since a request was sent is newer than its answer. */
  function waitingFor(): Set<string> {
    return new Set(
      queue.waiting.flatMap(({ edit: { operation, split: place, page, lines } }) => [
        ...(operation ? captionsOf(operation) : []),
        ...(place ? [place.caption] : []),
        ...(page?.captions ?? []),
        ...(lines?.captions ?? []),
      ]),
    )
  }

  /** Reads captions some at a time, so that nobody has to wait for the page. */
  const readFurther = oneAtATime(async () => {
    while (unread.size) {
      // The answers to edits under way have theirs.
      await queue.settled()
      if (!unread.size) return
      const asked = [...unread].slice(0, READ_AT_ONCE)
      try {
        const found = await answered(
          client.POST('/api/tracks/{track_id}/captions', { params: { path: { track_id: id } }, body: { captions: asked } }),
        )
        // Read before an edit that was taken in since.
        if (found.revision < seen) continue
        const newer = waitingFor()
        const there = new Set(found.captions.map((caption) => caption.id))
        for (const caption of asked) if (!newer.has(caption)) unread.delete(caption)
        captions.value = merged(
          captions.value,
          found.captions.filter((caption) => !newer.has(caption.id)),
          asked.filter((caption) => !there.has(caption) && !newer.has(caption)),
        )
      } catch (why) {
        if (why instanceof Refused && why.isFinal) {
          unread.clear()
          note(why.message)
        } else {
          await aMoment()
        }
      }
    }
  })

  /** An edit that the event stream told of, from this window or another. */
  async function happened(made: EditView) {
    heard = Math.max(heard, made.revision)
    if (!loaded.value || made.revision <= seen) return
    // The answer to an edit under way may close the gap.
    if (made.base > seen && saving.value === 'saving') await queue.settled()
    if (made.revision <= seen) return
    if (made.base <= seen) accept(made)
    else await readAnew()
  }

  /** This window brought the track to a revision: where it never had the answer, the track is read. */
  async function reached(revision: number) {
    await queue.settled()
    if (!loaded.value || seen >= revision) return
    // What is not sent through the queue, such as a step back, may have its answer on its way.
    await aMoment()
    await queue.settled()
    if (seen < revision) await readAnew()
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
    id, captions, byId, findings, scriptHead, spec, canUndo, canRedo, loaded, saving, left,
    seen: () => seen, reload, show, edit, split, write, breakLines, storeTyped, makeAgain, giveUp, accept, happened, reached, readAgain, between,
    settled: () => queue.settled(), isIdle: () => queue.waiting.length === 0 && left.value.length === 0,
  }
}
