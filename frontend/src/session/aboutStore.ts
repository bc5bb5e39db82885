/** Words about the film: what is written by hand is seen at once and stored in turn; what is made anew comes with its answer. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'

import { answered, client, named, type Schemas } from '@/api/client'
import type { Waiting } from '@/session/editQueue'
import { newId } from '@/session/identity'
import { useProject } from '@/session/projectStore'
import { useTracks } from '@/session/tracksStore'
import { storedEdits } from '@/session/storedEdits'

export type Piece = Schemas['AboutPieceView']['piece']
export type How = Schemas['AgainRequest']['how']
type AboutView = Schemas['AboutView']
/** @property since by hand: the revision that was written over, null where it was not stored yet */
type Edit = { kind: 'begin' } | { kind: 'put'; pieces: Record<string, Piece | null>; since?: number | null } | { kind: 'again'; id: string; how: How }
/** Of which project, and of which revision. */
type Asked = Edit & { project: string; base: number }
/** What was written by hand and refused, and why it was. */
export interface LeftPiece {
  id: string
  piece: Piece
  why: string
}

export const useAbout = defineStore('about', () => {
  const project = useProject()
  const tracks = useTracks()
  const view = shallowRef<AboutView | null>(null)
  const selectedId = ref<string | null>(null)
  const left = shallowRef<readonly LeftPiece[]>([])
  /** Whether a window shows them: nothing is read before. */
  let wanted = false

  const pieces = computed(() => view.value?.pieces ?? [])
  const selected = computed(() => pieces.value.find(({ id }) => id === selectedId.value))

  const { queue } = storedEdits<Asked, AboutView>({
    send,
    took: (answer, { edit }) => edit.project === project.project?.id && took(answer),
    refused: async (why, { edit }) => {
      const message = (why as Error).message
      const written = edit.kind === 'put' && edit.since !== undefined ? Object.entries(edit.pieces) : []
      if (written.length && edit.project === project.project?.id) {
        left.value = [...left.value, ...written.flatMap(([id, piece]) => (piece ? [{ id, piece, why: message }] : []))]
      } else tracks.refusal = message
      await read()
    },
    joined: (next, last) => (next.kind === 'put' && last.kind === 'put' && next.since === last.since ? { ...next, pieces: { ...last.pieces, ...next.pieces }, base: last.base } : null),
  })

  function took(answer: AboutView) {
    // What waits is newer than any answer; the last one holds all of it.
    if (queue.waiting.length || (view.value && answer.revision < view.value.revision)) return
    view.value = answer
    if (!selected.value) selectedId.value = answer.pieces[0]?.id ?? null
  }
  let reads = 0
  async function read(): Promise<void> {
    const project_id = project.project?.id
    if (!project_id) return
    wanted = true
    const turn = ++reads
    const found = await answered(client.GET('/api/projects/{project_id}/about', { params: { path: { project_id } } }))
    if (turn === reads && project_id === project.project?.id) took(found)
  }
  // What other windows do, and undo.
  watch(() => [project.changes, project.wordsRevision].join(), () => wanted && void read().catch(() => undefined))
  watch(
    () => project.project?.id,
    () => {
      view.value = null
      selectedId.value = null
      left.value = []
      wanted = false
      reads++
    },
    { flush: 'sync' },
  )

  function send({ edit, key }: Waiting<Asked>): Promise<AboutView> {
    const path = { project_id: edit.project }
    // What waited behind an edit of one's own is of what that made of it.
    const base_revision =
      (edit.kind === 'put' ? edit.since : undefined) ?? Math.max(edit.base, edit.project === project.project?.id ? (view.value?.revision ?? 0) : 0)
    switch (edit.kind) {
      case 'begin':
        return answered(client.POST('/api/projects/{project_id}/about', { params: { path }, ...named(key), body: { base_revision } }))
      case 'put':
        return answered(client.PUT('/api/projects/{project_id}/about', { params: { path }, ...named(key), body: { pieces: edit.pieces, base_revision } }))
      case 'again':
        return answered(client.POST('/api/projects/{project_id}/about/{piece_id}', { params: { path: { ...path, piece_id: edit.id } }, ...named(key), body: { how: edit.how, base_revision } }))
    }
  }
  const ask = (edit: Edit) => queue.push({ ...edit, project: project.project!.id, base: view.value?.revision ?? 0 }, newId())

  /** Writes all of it of what is said, in the place of what is there. */
  const begin = () => ask({ kind: 'begin' })
  const again = (id: string, how: How) => ask({ kind: 'again', id, how })
  /** Makes pieces these; null takes one away. */
  function put(changed: Record<string, Piece | null>, since?: number | null): Promise<void> {
    const now = view.value
    if (!now) return Promise.resolve()
    const kept = now.pieces.filter(({ id }) => changed[id] !== null).map((one) => (changed[one.id] ? { ...one, piece: changed[one.id]! } : one))
    view.value = { ...now, pieces: kept }
    return ask({ kind: 'put', pieces: changed, ...(since === undefined ? {} : { since }) })
  }
  /** The revision of what is shown; none while it holds what is not stored yet. */
  const shownRevision = () => (queue.waiting.length ? null : (view.value?.revision ?? null))
  /** Puts what was refused in the place of what is there now, or beside it where nothing is any more. */
  function putLeft(entry: LeftPiece): Promise<void> {
    giveUp(entry)
    return ask({ kind: 'put', pieces: { [entry.id]: entry.piece } })
  }
  function giveUp(entry: LeftPiece) {
    left.value = left.value.filter((other) => other !== entry)
  }
  function takeOff(): Promise<void> {
    const at = pieces.value.findIndex(({ id }) => id === selectedId.value)
    if (at < 0) return Promise.resolve()
    const { id } = pieces.value[at]!
    selectedId.value = (pieces.value[at + 1] ?? pieces.value[at - 1])?.id ?? null
    return put({ [id]: null })
  }
  const answers = (question: string) =>
    answered(client.GET('/api/projects/{project_id}/answers', { params: { path: { project_id: project.project!.id }, query: { question } } }))

  return { view, pieces, selectedId, selected, left, shownRevision, read, begin, again, put, putLeft, giveUp, takeOff, answers, settled: () => queue.settled() }
})
