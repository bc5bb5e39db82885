/** Words about the film: what is written by hand is seen at once and stored in turn; what is made anew comes with its answer. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'

import { answered, client, named, Refused, type Schemas } from '@/api/client'
import { EditQueue, type Saving, type Waiting } from '@/session/editQueue'
import { newId } from '@/session/identity'
import { useProject } from '@/session/projectStore'
import { useTracks } from '@/session/tracksStore'

export type Piece = Schemas['AboutPieceView']['piece']
export type How = Schemas['AgainRequest']['how']
type AboutView = Schemas['AboutView']
type Edit = { kind: 'begin' } | { kind: 'put'; pieces: Record<string, Piece | null> } | { kind: 'again'; id: string; how: How }
/** Of which project, and of which revision. */
type Asked = Edit & { project: string; base: number }

const RETRY_MS = 1500

export const useAbout = defineStore('about', () => {
  const project = useProject()
  const tracks = useTracks()
  const view = shallowRef<AboutView | null>(null)
  const selectedId = ref<string | null>(null)
  const saving = ref<Saving>('saved')
  /** Whether a window shows them: nothing is read before. */
  let wanted = false

  const pieces = computed(() => view.value?.pieces ?? [])
  const selected = computed(() => pieces.value.find(({ id }) => id === selectedId.value))

  const queue = new EditQueue<Asked, AboutView>({
    send,
    took: (answer, { edit }) => edit.project === project.project?.id && took(answer),
    isFinal: (error) => error instanceof Refused && error.isFinal,
    refused: async (why) => {
      tracks.refusal = (why as Error).message
      await read()
    },
    joined: (next, last) => (next.kind === 'put' && last.kind === 'put' ? { ...next, pieces: { ...last.pieces, ...next.pieces }, base: last.base } : null),
    changed: () => (saving.value = queue.saving),
    pause: () => new Promise((resolve) => setTimeout(resolve, RETRY_MS)),
    newKey: newId,
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
      wanted = false
      reads++
    },
    { flush: 'sync' },
  )

  function send({ edit, key }: Waiting<Asked>): Promise<AboutView> {
    const path = { project_id: edit.project }
    // What waited behind an edit of one's own is of what that made of it.
    const base_revision = Math.max(edit.base, edit.project === project.project?.id ? (view.value?.revision ?? 0) : 0)
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
  function put(changed: Record<string, Piece | null>): Promise<void> {
    const now = view.value
    if (!now) return Promise.resolve()
    const kept = now.pieces.filter(({ id }) => changed[id] !== null).map((one) => (changed[one.id] ? { ...one, piece: changed[one.id]! } : one))
    view.value = { ...now, pieces: kept }
    return ask({ kind: 'put', pieces: changed })
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

  return { view, pieces, selectedId, selected, saving, read, begin, again, put, takeOff, answers, settled: () => queue.settled() }
})
