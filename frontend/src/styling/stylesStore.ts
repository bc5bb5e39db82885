/** The styles of the project and those kept for all projects; what is done with them is seen at once, and stored in turn. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'

import { answered, client, named, type Schemas } from '@/api/client'
import type { Waiting } from '@/session/editQueue'
import { useHistory } from '@/session/historyStore'
import { newId } from '@/session/identity'
import { useProject } from '@/session/projectStore'
import { useTrack, useTracks } from '@/session/tracksStore'
import type { Look } from '@/styling/looks'
import { storedEdits } from '@/session/storedEdits'

export type Style = Schemas['StyleView']
export type KeptStyle = Schemas['KeptStyleView']

type Edit =
  | { kind: 'put'; name: string; look: Look; gesture: string }
  | { kind: 'rename'; name: string; to: string }
  | { kind: 'remove'; name: string; instead: string | null }
  | { kind: 'take'; name: string }
  | { kind: 'default'; style: string | null; gesture: string }
  | { kind: 'speaker'; speaker: string; style: string | null; gesture: string }
  | { kind: 'keep'; name: string; look: Look; asDefault: boolean | null }
  | { kind: 'let-go'; name: string }

/** Of which project and track it was made, and at which revision. */
type Asked = Edit & { project: string; track: string; base: number }

export const useStyles = defineStore('styles', () => {
  const project = useProject()
  const track = useTrack()
  const tracks = useTracks()
  const styles = shallowRef<readonly Style[]>([])
  const kept = shallowRef<readonly KeptStyle[]>([])
  const loaded = ref(false)
  let seen = 0
  let readOf = ''

  const byName = computed(() => new Map(styles.value.map((style) => [style.name, style])))
  /** The style of captions that name none; null where that is the one that ships. */
  const usual = computed(() => project.trackInfo?.style ?? null)
  /** Those kept for all projects that this one has not. */
  const offered = computed(() => kept.value.filter(({ name }) => !byName.value.has(name)))
  const styleOfSpeaker = (speaker: string | null) =>
    speaker === null ? undefined : styles.value.find((style) => style.speakers.includes(speaker))

  const { queue } = storedEdits<Asked, unknown>({
    send,
    took: () => void took(),
    refused: async (why) => {
      tracks.refusal = (why as Error).message
      await read()
    },
    joined: (next, last) => (next.kind === 'put' && last.kind === 'put' && next.name === last.name ? { ...next, base: last.base } : null),
  })

  // What is done elsewhere comes after it, wherever that is.
  useHistory().writers.add(() => queue.settled())

  /** Reads the styles, for as long as nothing waits that they do not hold yet. */
  async function read(): Promise<void> {
    const project_id = project.project?.id
    if (!project_id) return
    const [own, house] = await Promise.all([
      answered(client.GET('/api/projects/{project_id}/styles', { params: { path: { project_id } } })),
      answered(client.GET('/api/styles')),
    ])
    if (project_id !== project.project?.id || (readOf === project_id && own.revision < seen) || queue.waiting.length) return
    seen = own.revision
    readOf = project_id
    styles.value = own.styles
    kept.value = house
    loaded.value = true
  }

  /** The captions are drawn anew, and used by others, once all is stored. */
  async function took() {
    if (queue.waiting.length) return
    await Promise.all([read(), project.refresh(), tracks.reloadAll()])
  }

  watch(() => project.styleChanges, () => loaded.value && void read())
  watch(() => project.project?.id, () => ((loaded.value = false), (styles.value = [])))

  function send({ edit, key }: Waiting<Asked>): Promise<unknown> {
    const project_id = edit.project
    const name = 'name' in edit ? edit.name : ''
    const style = { params: { path: { project_id, name } }, ...named(key) }
    switch (edit.kind) {
      case 'put':
        return answered(
          client.PUT('/api/projects/{project_id}/styles/{name}', {
            ...style, body: { look: edit.look, base_revision: edit.base, gesture: edit.gesture },
          }),
        )
      case 'rename':
        return answered(client.POST('/api/projects/{project_id}/styles/{name}/name', { ...style, body: { name: edit.to } }))
      case 'remove':
        return answered(
          client.DELETE('/api/projects/{project_id}/styles/{name}', {
            params: { ...style.params, query: edit.instead === null ? {} : { instead: edit.instead } }, ...named(key),
          }),
        )
      case 'take':
        return answered(client.POST('/api/projects/{project_id}/styles/{name}/taken', style))
      case 'default':
        return answered(
          client.PUT('/api/tracks/{track_id}/default-style', {
            params: { path: { track_id: edit.track } }, ...named(key), body: { style: edit.style, gesture: edit.gesture },
          }),
        )
      case 'speaker':
        return answered(
          client.PUT('/api/projects/{project_id}/speaker-style', {
            params: { path: { project_id } }, ...named(key), body: { speaker: edit.speaker, style: edit.style, gesture: edit.gesture },
          }),
        )
      case 'keep':
        return answered(client.PUT('/api/styles/{name}', { params: { path: { name } }, body: { look: edit.look, default: edit.asDefault } }))
      case 'let-go':
        return answered(client.DELETE('/api/styles/{name}', { params: { path: { name } } }))
    }
  }

  /** Stores something of styles; ends when it is stored, or was refused. */
  function ask(edit: Edit): Promise<void> {
    const gesture = 'gesture' in edit ? edit.gesture : newId()
    return queue.push({ ...edit, project: project.project!.id, track: track.id, base: seen }, gesture)
  }

  /** A name that no style has. */
  function freeName(wanted: string): string {
    const taken = (name: string) => byName.value.has(name) || kept.value.some((style) => style.name === name)
    if (!taken(wanted)) return wanted
    for (let n = 2; ; n++) if (!taken(`${wanted} ${n}`)) return `${wanted} ${n}`
  }

  /** Makes a style of this look, or changes the one of that name. */
  function put(name: string, look: Look, gesture = newId()): Promise<void> {
    const known = byName.value.get(name)
    const fresh = known ? { ...known, look } : { name, look, captions: {}, speakers: [], kept: false, is_older: false }
    styles.value = known ? styles.value.map((style) => (style === known ? fresh : style)) : [...styles.value, fresh]
    return ask({ kind: 'put', name, look, gesture })
  }

  return {
    styles, kept, offered, byName, usual, loaded, styleOfSpeaker, read, put, freeName,
    rename: (name: string, to: string) => ask({ kind: 'rename', name, to }),
    remove: (name: string, instead: string | null) => ask({ kind: 'remove', name, instead }),
    take: (name: string) => ask({ kind: 'take', name }),
    makeUsual: (style: string | null, gesture = newId()) => ask({ kind: 'default', style, gesture }),
    giveSpeaker: (speaker: string, style: string | null, gesture = newId()) => ask({ kind: 'speaker', speaker, style, gesture }),
    keep: (name: string, look: Look, asDefault: boolean | null = null) => ask({ kind: 'keep', name, look, asDefault }),
    letGo: (name: string) => ask({ kind: 'let-go', name }),
    settled: () => queue.settled(),
    /** The revision of the project that they were read at. */
    seen: () => seen,
  }
})
