/** The versions of the track: other pictures of the film. What is done to one is seen at once, and stored in turn. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'

import { answered, client, named, type Schemas } from '@/api/client'
import type { Waiting } from '@/session/editQueue'
import { newId } from '@/session/identity'
import { useProject } from '@/session/projectStore'
import { useTrack, useTracks } from '@/session/tracksStore'
import { storedEdits } from '@/session/storedEdits'

export type Version = Schemas['Version']
export type VersionView = Schemas['VersionView']
export type Apart = Schemas['Apart']

type Edit =
  | { kind: 'put'; id: string; version: Version }
  | { kind: 'remove'; id: string }
  | { kind: 'apart'; id: string; apart: Record<string, Apart | null> }

/** Of which track it was made, and of which revision. */
type Asked = Edit & { track: string; base: number; gesture: string }

export const useVersions = defineStore('versions', () => {
  const project = useProject()
  const track = useTrack()
  const tracks = useTracks()
  const versions = shallowRef<readonly VersionView[]>([])
  /** The one whose picture is shown in the place of the film's own. */
  const shownId = ref<string | null>(null)
  let seen = 0
  /** Whether anything that is in view shows versions. */
  let wanted = false

  const shown = computed(() => versions.value.find(({ id }) => id === shownId.value))

  const { queue } = storedEdits<Asked, Schemas['VersionsView']>({
    send,
    took: (answer, { edit }) => edit.track === track.id && took(answer),
    refused: async (why) => {
      tracks.refusal = (why as Error).message
      await read()
    },
    joined: (next, last) => {
      if (next.id !== last.id) return null
      if (next.kind === 'put' && last.kind === 'put') return { ...next, base: last.base }
      return next.kind === 'apart' && last.kind === 'apart' ? { ...next, apart: { ...last.apart, ...next.apart }, base: last.base } : null
    },
  })

  function took(answer: Schemas['VersionsView']) {
    // What waits is newer than any answer; the last one holds all of it.
    if (queue.waiting.length || answer.revision < seen) return
    seen = answer.revision
    versions.value = answer.versions
  }

  let reads = 0
  async function read(): Promise<void> {
    const track_id = track.id
    if (!track_id) return
    wanted = true
    const turn = ++reads
    const found = await answered(client.GET('/api/tracks/{track_id}/versions', { params: { path: { track_id } } }))
    if (turn === reads && track_id === track.id) took(found)
  }
  // What another window does, undo, and styles that became others, once somebody has asked for them.
  watch([() => track.id, () => project.versionChanges, () => project.styleChanges], () => wanted && void read().catch(() => undefined))
  watch(
    () => track.id,
    () => {
      versions.value = []
      shownId.value = null
      seen = 0
      reads++
    },
    { flush: 'sync' },
  )

  function send({ edit, key }: Waiting<Asked>) {
    const params = { path: { track_id: edit.track, version_id: edit.id } }
    const { gesture, base: base_revision } = edit
    switch (edit.kind) {
      case 'put':
        return answered(client.PUT('/api/tracks/{track_id}/versions/{version_id}', { params, ...named(key), body: { base_revision, gesture, version: edit.version } }))
      case 'remove':
        return answered(client.DELETE('/api/tracks/{track_id}/versions/{version_id}', { params, ...named(key) }))
      case 'apart':
        return answered(client.PUT('/api/tracks/{track_id}/versions/{version_id}/captions', { params, ...named(key), body: { base_revision, gesture, apart: edit.apart } }))
    }
  }
  const ask = (edit: Edit, base: number, gesture: string) => queue.push({ ...edit, track: track.id, base, gesture }, gesture)

  /** Shows a version as it shall be, as while a hand still moves it. */
  function show(id: string, version: Version) {
    versions.value = versions.value.map((view) => (view.id === id ? { ...view, version } : view))
  }

  /** Makes a version this one; ends when that is stored, or was refused. */
  function put(id: string, version: Version, gesture = newId()): Promise<void> {
    show(id, version)
    return ask({ kind: 'put', id, version }, seen, gesture)
  }

  /** Makes a new version, and shows it once it is there. */
  async function add(version: Version): Promise<void> {
    const id = newId()
    await ask({ kind: 'put', id, version }, seen, newId())
    if (versions.value.some((view) => view.id === id)) shownId.value = id
  }

  function remove(id: string): Promise<void> {
    versions.value = versions.value.filter((view) => view.id !== id)
    if (shownId.value === id) shownId.value = null
    return ask({ kind: 'remove', id }, seen, newId())
  }

  /** Says what differs about captions in a version. */
  function setApart(id: string, apart: Record<string, Apart | null>, gesture = newId()): Promise<void> {
    const view = versions.value.find((one) => one.id === id)
    if (!view) return Promise.resolve()
    const now = Object.fromEntries(Object.entries({ ...view.apart, ...apart }).filter((entry): entry is [string, Apart] => entry[1] !== null))
    versions.value = versions.value.map((one) => (one === view ? { ...one, apart: now } : one))
    return ask({ kind: 'apart', id, apart }, view.apart_revision, gesture)
  }

  /** A name that no version has. */
  function freeName(wanted: string): string {
    const taken = new Set(versions.value.map(({ version }) => version.name.toLowerCase()))
    for (let n = 1; ; n++) {
      const name = n === 1 ? wanted : `${wanted} ${n}`
      if (!taken.has(name.toLowerCase())) return name
    }
  }

  return { versions, shownId, shown, read, show, put, add, remove, setApart, freeName, settled: () => queue.settled() }
})
