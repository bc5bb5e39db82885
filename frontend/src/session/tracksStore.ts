/** The tracks that are open, by their ids, and the one that is worked on. */
import { defineStore } from 'pinia'
import { computed, markRaw, ref, shallowReactive } from 'vue'

import type { EditView, Operation } from '@/api/client'
import type { Caption } from '@/session/captions'
import { newId } from '@/session/identity'
import { keysWaitFor } from '@/kit/commands/commands'
import { type Lines, type OpenTrack, openTrack, type Page, type Typed } from '@/session/openTrack'

export { newId } from '@/session/identity'
export type { Page } from '@/session/openTrack'

/** A caption as it is when it is made. */
export const newCaption = (in_ms: number, out_ms: number, spans: Caption['spans'] = []) => ({
  id: newId(), in_ms, out_ms, spans, extras: [], locked: false,
})

export const useTracks = defineStore('tracks', () => {
  const opened = shallowReactive(new Map<string, OpenTrack>())
  const currentId = ref('')
  /** What went wrong, said for a moment. */
  const refusal = ref('')
  const current = computed(() => opened.get(currentId.value))

  const listed = () => [...opened.values()]
  /** Words that were refused, of all tracks. */
  const left = computed(() => listed().flatMap((track) => track.left.value.map((entry) => markRaw({ track, entry }))))

  /** Opens a track, or gives it as it is open; it is read when this ends. */
  async function open(id: string): Promise<OpenTrack> {
    let track = opened.get(id)
    if (!track) {
      track = openTrack(id, (message) => (refusal.value = message))
      opened.set(id, track)
    }
    // Of the captions that are there first no key is to take the others for none.
    await keysWaitFor(track.reload())
    return track
  }

  /** Works on a track. */
  async function select(id: string) {
    currentId.value = id
    await open(id)
  }

  /** Lets go of all tracks that have nothing to store any more; the others stay until they have. */
  function close() {
    currentId.value = ''
    for (const track of listed()) {
      void track.settled().then(() => {
        if (track.isIdle() && track.id !== currentId.value) opened.delete(track.id)
      })
    }
  }

  /** Reads all open tracks again, as when they are judged by something else now. */
  async function reloadAll() {
    await Promise.all(listed().filter((track) => track.loaded.value).map((track) => track.reload()))
  }

  async function happened(edits: readonly EditView[]) {
    await Promise.all(edits.map((edit) => opened.get(edit.track_id)?.happened(edit)))
  }

  /** This window brought tracks to a revision; whether it knows is for each to see. */
  function reached({ tracks, revision }: { tracks: readonly string[]; revision: number }) {
    for (const id of tracks) void opened.get(id)?.reached(revision)
  }

  /** Ends when all that was done is stored. */
  async function settled() {
    await Promise.all(listed().map((track) => track.settled()))
  }

  return { opened, currentId, current, refusal, left, open, select, close, reloadAll, happened, reached, settled }
})

/** The track that is worked on, as if it were the only one. */
export const useTrack = defineStore('track', () => {
  const tracks = useTracks()
  const now = () => tracks.current
  /** @throws when no track is open: nothing shows one then */
  const one = () => {
    if (!tracks.current) throw new Error('no track is open')
    return tracks.current
  }
  const none = new Map<string, Caption>()

  return {
    id: computed(() => tracks.currentId),
    captions: computed(() => now()?.captions.value ?? []),
    byId: computed(() => now()?.byId.value ?? none),
    findings: computed(() => now()?.findings.value ?? 0),
    scriptHead: computed(() => now()?.scriptHead.value ?? ''),
    spec: computed(() => now()?.spec.value ?? null),
    canUndo: computed(() => now()?.canUndo.value ?? false),
    canRedo: computed(() => now()?.canRedo.value ?? false),
    loaded: computed(() => now()?.loaded.value ?? false),
    refusal: computed({ get: () => tracks.refusal, set: (message: string) => (tracks.refusal = message) }),
    seen: () => now()?.seen() ?? 0,
    reload: async () => await now()?.reload(),
    show: (operation: Operation) => one().show(operation),
    edit: (operation: Operation, gesture: string) => one().edit(operation, gesture),
    storeTyped: (typed: Typed) => one().storeTyped(typed),
    breakLines: (lines: Lines) => one().breakLines(lines),
    split: (caption: string, place: { offset?: number; at_ms?: number }) => one().split(caption, place),
    write: (page: Page, gesture: string) => one().write(page, gesture),
    /** Takes what the server says of a track, if it is open. */
    accept: (made: EditView) => tracks.opened.get(made.track_id)?.accept(made),
    settled: async () => await now()?.settled(),
    between: (from: number, to: number, longest?: number) => now()?.between(from, to, longest) ?? [],
  }
})
