/** The translation that is worked on: which captions are of which, and how far each is. Told at once, stored in turn. */
import { watchDebounced } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'

import { answered, client, fileBody, named, type Schemas } from '@/api/client'
import { type Caption, isShape, textOf } from '@/session/captions'
import type { Waiting } from '@/session/editQueue'
import { newId } from '@/session/identity'
import { useProject } from '@/session/projectStore'
import { type OpenTrack } from '@/session/openTrack'
import { useTracks } from '@/session/tracksStore'
import { storedEdits } from '@/session/storedEdits'

export type Link = Schemas['LinkView']
export type Progress = NonNullable<Link['progress']>
/** How far a caption of a translation is; `changed` was confirmed or drafted, and its source says something else now. */
export type Standing = 'empty' | 'begun' | Progress | 'changed'

interface Asked {
  track: string
  base: number
  gesture: string
  progress: Record<string, Progress | null>
}

/** Typing in the source is waited for so long, before what it changes for its translation is read. */
const SOURCE_MS = 400
const NOTHING: Link = { sources: [] }

/** A caption is never changed, but another takes its place: what it says in one line is worked out once. */
const lines = new WeakMap<Caption, string>()
function lineOf(caption: Caption): string {
  const known = lines.get(caption)
  if (known !== undefined) return known
  const line = textOf(caption).split(/\s+/).filter(Boolean).join(' ')
  lines.set(caption, line)
  return line
}

/** What captions say, one after the other, wherever their lines break: as the server keeps what was translated. */
export function saidBy(sources: readonly string[], byId: ReadonlyMap<string, Caption>): string {
  if (sources.length === 1) {
    const only = byId.get(sources[0]!)
    return only ? lineOf(only) : ''
  }
  return sources
    .flatMap((id) => byId.get(id) ?? [])
    .map(lineOf)
    .filter(Boolean)
    .join(' ')
}

/** How far a caption is, of what is known of it and of what its sources say. */
export function standingOf(caption: Pick<Caption, 'spans'>, link: Link, sourceSays: string): Standing {
  if (link.progress === 'later') return 'later'
  if (!textOf(caption).trim()) return 'empty'
  if (link.said !== undefined && link.said !== null && link.said !== sourceSays) return 'changed'
  return link.progress ?? 'begun'
}

export const useTranslation = defineStore('translation', () => {
  const project = useProject()
  const tracks = useTracks()
  const links = shallowRef<ReadonlyMap<string, Link>>(new Map())
  const canUndo = ref(false)
  const canRedo = ref(false)
  const loaded = ref(false)
  /** The translation that was worked on last, where its source is the track that is worked on. */
  const lastTarget = ref('')
  let readOf = ''
  let seen = 0
  let wanted = false

  /** The track that is worked on with its source, or its translation; none where it has neither. */
  const pair = computed(() => {
    const listed = project.project?.tracks ?? []
    const current = listed.find(({ id }) => id === tracks.currentId)
    if (!current) return null
    const isThere = (id: string | null) => id !== null && listed.some((info) => info.id === id)
    if (isThere(current.translates)) return { target: current.id, source: current.translates }
    const ofIt = listed.filter(({ translates }) => translates === current.id)
    const target = ofIt.find(({ id }) => id === lastTarget.value) ?? ofIt[0]
    if (target) return { target: target.id, source: current.id }
    // Translated from listening alone, or its source was removed.
    return alone.value === current.id ? { target: current.id, source: null } : null
  })
  /** A track that is shown as a translation although it has no source. */
  const alone = ref('')
  const target = computed<OpenTrack | undefined>(() => (pair.value ? tracks.opened.get(pair.value.target) : undefined))
  const source = computed<OpenTrack | undefined>(() => (pair.value?.source ? tracks.opened.get(pair.value.source) : undefined))
  const sourceById = computed(() => source.value?.byId.value ?? new Map<string, Caption>())
  const linkOf = (caption: string): Link => links.value.get(caption) ?? NOTHING

  /** What is to be translated, by the ids of the captions of the translation. */
  const sourceSays = (caption: string) => saidBy(linkOf(caption).sources, sourceById.value)
  /** How far all captions are, told in one go: it is asked of thousands with each letter that is typed. */
  const standings = computed(() => {
    const [known, said] = [links.value, sourceById.value]
    const found = new Map<string, Standing>()
    for (const caption of target.value?.captions.value ?? []) {
      const link = known.get(caption.id) ?? NOTHING
      found.set(caption.id, standingOf(caption, link, saidBy(link.sources, said)))
    }
    return found
  })
  const standing = (caption: Caption): Standing => standings.value.get(caption.id) ?? 'empty'

  /** Captions of the translation by those of the source that they are of. */
  const targetsOf = computed(() => {
    const found = new Map<string, string[]>()
    for (const [id, { sources }] of links.value) {
      for (const one of sources) found.set(one, [...(found.get(one) ?? []), id])
    }
    return found
  })

  /** How many captions are confirmed, of how many, and milliseconds of them. */
  const done = computed(() => {
    const all = (target.value?.captions.value ?? []).filter((caption) => !isShape(caption))
    const now = standings.value
    const confirmed = all.filter(({ id }) => now.get(id) === 'done')
    const length = (captions: readonly Caption[]) => captions.reduce((sum, { in_ms, out_ms }) => sum + out_ms - in_ms, 0)
    return { count: confirmed.length, of: all.length, ms: length(confirmed), ofMs: length(all) }
  })

  const { queue } = storedEdits<Asked, Schemas['TranslationView']>({
    send: ({ edit: { track: track_id, base, gesture, progress }, key }: Waiting<Asked>) =>
      answered(
        client.PUT('/api/tracks/{track_id}/translation/progress', {
          params: { path: { track_id } }, ...named(key), body: { base_revision: base, gesture, progress },
        }),
      ),
    took: (answer, { edit }) => edit.track === pair.value?.target && took(answer),
    refused: async (why) => {
      tracks.refusal = (why as Error).message
      await read(true)
    },
    joined: (next, last) => (next.track === last.track ? { ...next, base: last.base, progress: { ...last.progress, ...next.progress } } : null),
  })

  function took(answer: Schemas['TranslationView']) {
    if (answer.base > seen && readOf === pair.value?.target) return void read(true)
    if (answer.revision < seen) return
    const whole = answer.base === 0
    const now = new Map(whole ? [] : links.value)
    for (const id of answer.gone) now.delete(id)
    for (const [id, link] of Object.entries(answer.links)) now.set(id, link)
    // What waits to be stored is newer.
    for (const { edit } of queue.waiting) {
      for (const [id, progress] of Object.entries(edit.progress)) now.set(id, { ...(now.get(id) ?? NOTHING), progress })
    }
    seen = answer.revision
    links.value = now
    canUndo.value = answer.can_undo
    canRedo.value = answer.can_redo
  }

  let reads = 0
  /** Reads what changed since it was read last, or all of it. */
  async function read(anew = false): Promise<void> {
    const track_id = pair.value?.target
    if (!track_id) return
    const whole = anew || readOf !== track_id
    const turn = ++reads
    const query = whole ? {} : { since: seen }
    const answer = await answered(client.GET('/api/tracks/{track_id}/translation', { params: { path: { track_id }, query } }))
    if (turn !== reads || track_id !== pair.value?.target) return
    if (whole) seen = 0
    readOf = track_id
    took(answer)
    loaded.value = true
  }

  /** Opens both tracks, and keeps what is known of them as it is on the server. */
  async function open() {
    wanted = true
    const { target: target_id, source: source_id } = pair.value ?? {}
    if (target_id) lastTarget.value = target_id
    await Promise.all([
      ...[target_id, source_id].filter((id): id is string => Boolean(id) && !tracks.opened.get(id!)?.loaded.value).map((id) => tracks.open(id)),
      read(),
    ])
  }

  watch(
    [() => pair.value?.target, () => pair.value?.source],
    ([now]) => {
      if (now !== readOf) {
        links.value = new Map()
        loaded.value = false
        reads++
      }
      if (wanted) void open().catch(() => undefined)
    },
    { flush: 'sync' },
  )
  // What is judged against a source that says something else now is judged otherwise.
  let saidBefore: ReadonlyMap<string, string> = new Map()
  watchDebounced(
    () => source.value?.captions.value ?? [],
    (now) => {
      const saidNow = new Map(now.map((caption) => [caption.id, lineOf(caption)]))
      const changed = [...saidNow].filter(([id, line]) => saidBefore.has(id) && saidBefore.get(id) !== line)
      saidBefore = saidNow
      target.value?.readAgain(changed.flatMap(([id]) => targetsOf.value.get(id) ?? []))
    },
    { debounce: SOURCE_MS },
  )
  watch(() => project.linkChanges, () => wanted && void read().catch(() => undefined))

  /** Says how far captions are: seen at once, stored in turn. */
  function setProgress(progress: Record<string, Progress | null>, gesture = newId()): Promise<void> {
    const now = new Map(links.value)
    for (const [id, wantedOne] of Object.entries(progress)) {
      const link = now.get(id) ?? NOTHING
      now.set(id, { ...link, progress: wantedOne, said: wantedOne === 'done' ? sourceSays(id) : link.said })
    }
    links.value = now
    return queue.push({ track: pair.value!.target, base: seen, gesture, progress }, gesture)
  }

  /** Adds a translation, and works on it. */
  async function begin(body: Schemas['TranslationRequest']) {
    const params = { path: { project_id: project.project!.id } }
    const added = await answered(client.POST('/api/projects/{project_id}/translations', { params, ...named(newId()), body }))
    alone.value = body.source === null ? added.id : ''
    await project.refresh()
    await tracks.select(added.id)
    await open()
  }

  /** Adds a translation with the words of a file, and works on it; tells what of the file found no caption, or is doubtful. */
  async function beginFromFile(file: File, source_id: string, language: string, spec_id: string | null) {
    const params = {
      path: { project_id: project.project!.id },
      query: { source: source_id, language, name: file.name, ...(spec_id ? { spec_id } : {}) },
    }
    const begun = await answered(client.POST('/api/projects/{project_id}/translations/file', { params, ...named(newId()), ...fileBody(file) }))
    alone.value = ''
    await project.refresh()
    await tracks.select(begun.track.id)
    await open()
    return begun
  }

  /** Makes the track that is worked on the translation of another one. */
  async function translateFrom(source_id: string | null) {
    const params = { path: { track_id: tracks.currentId } }
    await answered(client.PUT('/api/tracks/{track_id}/translation', { params, ...named(newId()), body: { source: source_id } }))
    alone.value = source_id === null ? tracks.currentId : ''
    await project.refresh()
    await open()
  }

  return {
    pair, alone, links, loaded, canUndo, canRedo, target, source, targetsOf, done, linkOf, sourceSays, standings, standing,
    open, read, setProgress, begin, beginFromFile, translateFrom, settled: () => queue.settled(),
  }
})
