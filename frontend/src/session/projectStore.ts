/** The open project: its film, its jobs, its words, and the stream of what happens to it. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'

import { answered, type ChangesView, client, type JobView, named, type ProjectView, Refused, type Schemas, type Spec, type Word, type WordsView } from '@/api/client'
import { windowName } from '@/session/identity'
import { useFonts } from '@/session/fonts'
import { usePeople } from '@/session/people'
import { newId, useTrack, useTracks } from '@/session/tracksStore'
import { startOfFrame } from '@/kit/time'

/** What all projects share, as it is called where projects are. */
export const HOUSE = 'house'

const LAST_FRAME_MS = 50
/** What there is behind the last caption to work in until the film is there. */
const ROOM_MS = 60_000

export const useProject = defineStore('project', () => {
  const project = shallowRef<ProjectView | null>(null)
  const allJobs = shallowRef<readonly JobView[]>([])
  const words = shallowRef<readonly Word[]>([])
  const wordsRevision = ref(0)
  /** What can be taken back of the transcript, its speakers and its spelling list. */
  const wordsHistory = ref({ canUndo: false, canRedo: false })
  /** Grows when the spelling list was changed, here or in another window. */
  const termsChanges = ref(0)
  /** Grows when styles were changed, of this project or of the house, or who is set in which. */
  const styleChanges = ref(0)
  /** Grows when versions of tracks were changed. */
  const versionChanges = ref(0)
  /** Grows with whatever changes in the project or in the house, but for what this window did itself. */
  const changes = ref(0)
  /** Grows when the term list was changed, of the project or of the house. */
  const termListChanges = ref(0)
  /** Grows when links of translations were changed, or a track became the translation of another one. */
  const linkChanges = ref(0)
  /** Grows when words are accepted, or are not any more. */
  const dictionaryChanges = ref(0)
  const specs = shallowRef<readonly Spec[]>([])
  /** Why it cannot be opened. */
  const missing = shallowRef<{ message: string; damaged: boolean } | null>(null)
  let run: string | null = null
  let stream: EventSource | null = null
  let writing: Promise<unknown> = Promise.resolve()
  let naming: Promise<unknown> = Promise.resolve()
  let namesUnderWay = 0

  const tracks = useTracks()
  const track = useTrack()
  const people = usePeople()
  const fonts = useFonts()
  const rate = computed(() => project.value?.film.frame_rate ?? { numerator: 25, denominator: 1 })
  const hasFilm = computed(() => Boolean(project.value?.film.id))
  /** The job that brings the film from its host, as long as it is not here. */
  const fetching = computed(() => (hasFilm.value ? undefined : jobs.value.find(({ kind }) => kind === 'fetch')))
  /** The film's length; until it is there, that of what is written, with room to go on. */
  const durationMs = computed(() =>
    hasFilm.value ? project.value!.film.duration_ms : (track.captions.at(-1)?.out_ms ?? 0) + ROOM_MS,
  )
  /** What is done, or was, with the film that is shown now. */
  const jobs = computed(() => allJobs.value.filter(({ film_id }) => !film_id || film_id === project.value?.film.id))
  /** Whether the film is over at a time; its last frame may end a little after what it says of its length. */
  const isPastEnd = (ms: number) => hasFilm.value && ms > durationMs.value + LAST_FRAME_MS
  /** The gap that the track's spec wants at the least. */
  const leastGapMs = computed(() =>
    Math.max(startOfFrame(track.spec?.least_gap_frames ?? 0, rate.value), track.spec?.least_gap_ms ?? 0),
  )
  const busy = computed(() => jobs.value.filter((job) => job.state === 'running' || job.state === 'waiting'))

  const trackInfo = computed(() => project.value?.tracks.find((info) => info.id === track.id))

  /** The newest job of a kind. */
  const latest = (kind: JobView['kind']) => jobs.value.find((job) => job.kind === kind)

  async function open(projectId: string) {
    close()
    try {
      await refresh(projectId)
    } catch (problem) {
      missing.value = asMissing(problem)
      return
    }
    const first = project.value!.revision
    const following = follow(projectId)
    void client.POST('/api/projects/{project_id}/opened', { params: { path: { project_id: projectId } } })
    try {
      await Promise.all([tracks.select(project.value!.tracks[0]!.id), loadWords(true), loadSpecs(), people.load(), fonts.load()])
    } catch (problem) {
      if (!(problem instanceof Refused && problem.isFinal)) throw problem
      close()
      missing.value = asMissing(problem)
      return
    }
    // What happened until the stream follows was not told: then it is read once more.
    void following.then(async () => {
      if (project.value?.id !== projectId) return
      await refresh()
      if (project.value.revision > first) await Promise.all([tracks.reloadAll(), loadWords(true)])
    })
  }

  const asMissing = (problem: unknown) => ({
    message: (problem as Error).message,
    damaged: problem instanceof Refused && problem.code === 'projects.damaged',
  })

  function close() {
    stream?.close()
    stream = null
    tracks.close()
    project.value = null
    words.value = []
    wordsRevision.value = 0
    run = null
    missing.value = null
  }

  async function refresh(projectId = project.value!.id) {
    take(await answered(client.GET('/api/projects/{project_id}', { params: { path: { project_id: projectId } } })))
  }

  function take(view: ProjectView) {
    const known = project.value?.id === view.id ? project.value : null
    // Something newer was read meanwhile.
    if (known && view.revision < known.revision) return
    // Nothing that shows the project may ask for a track that is not known yet.
    if (!known) tracks.currentId = view.tracks[0]!.id
    // Names that are on their way are newer than what was read.
    project.value = known && namesUnderWay ? { ...view, speakers: known.speakers } : view
    allJobs.value = view.jobs
  }

  /** Shows a project as it became, with its captions judged by that. */
  async function took(view: ProjectView) {
    take(view)
    await tracks.reloadAll()
  }

  async function loadSpecs() {
    specs.value = await answered(client.GET('/api/specs'))
  }

  async function loadWords(anew = false) {
    const first = anew ? 0 : words.value.length
    const view = await answered(
      client.GET('/api/projects/{project_id}/words', {
        params: { path: { project_id: project.value!.id }, query: { first } },
      }),
    )
    if (view.run !== run && !anew) {
      await loadWords(true)
      return
    }
    // What was written meanwhile is newer than this.
    if (view.revision < wordsRevision.value && view.run === run) return
    run = view.run
    wordsRevision.value = view.revision
    tookHistory(view)
    words.value = anew ? view.words : [...words.value, ...view.words]
  }

  function tookHistory({ can_undo, can_redo }: WordsView) {
    wordsHistory.value = { canUndo: can_undo, canRedo: can_redo }
  }

  /**
   * Writes words in the place of others, from one on.
   * @throws Refused when the transcript is another one by now
   */
  async function writeWords(projectId: string, body: Schemas['TranscriptEdit'], key: string): Promise<WordsView> {
    const params = { path: { project_id: projectId } }
    const request = answered(client.POST('/api/projects/{project_id}/transcript/edits', { params, ...named(key), body }))
    writing = request.catch(() => null)
    const answer = await request
    if (projectId !== project.value?.id) return answer
    tookHistory(answer)
    // They may have been read already, with what another window wrote.
    if (answer.revision > wordsRevision.value) {
      run = answer.run
      wordsRevision.value = answer.revision
      words.value = words.value.toSpliced(body.first, body.count, ...answer.words)
    }
    return answer
  }

  /** Moves all words in time, piece by piece. */
  async function retimeWords(pieces: Schemas['PieceView'][], gesture: string) {
    const params = { path: { project_id: project.value!.id } }
    const body = { pieces, gesture, base_revision: wordsRevision.value }
    await answered(client.POST('/api/projects/{project_id}/transcript/retiming', { params, ...named(newId()), body }))
    await loadWords(true)
  }

  /** Reads the transcript again when another window wrote in it. */
  async function wordsWritten(revision: number) {
    await writing
    if (revision > wordsRevision.value) await loadWords(true)
  }

  /** Follows a project's events; ends when they come in, and comes back after every break. */
  function follow(projectId: string): Promise<void> {
    const source = new EventSource(`/api/projects/${projectId}/events?window=${windowName}`)
    stream = source
    // A page that the browser keeps to come back to would keep its stream too, and there are few for all pages together.
    window.addEventListener('pagehide', () => source.close(), { once: true })
    source.addEventListener('changed', (event) => void happened(JSON.parse(event.data) as ChangesView))
    source.addEventListener('own', (event) => tracks.reached(JSON.parse(event.data)))
    source.addEventListener('job', (event) => void jobChanged(JSON.parse(event.data) as JobView))
    return new Promise((resolve) => {
      let first = true
      source.addEventListener('ready', () => {
        if (!first) void Promise.all([refresh(), tracks.reloadAll(), loadWords(true)])
        first = false
        resolve()
      })
    })
  }

  /** Takes in what changed in the project, or in the house, whoever changed it. */
  async function happened(view: ChangesView) {
    if (view.project_id === HOUSE) {
      changes.value++
      if (view.targets.includes('styles')) styleChanges.value++
      const [ofTerms, ofWords] = [view.targets.includes('glossary'), view.targets.includes('dictionary')]
      if (ofTerms) termListChanges.value++
      if (ofWords) dictionaryChanges.value++
      if (ofTerms || ofWords) await tracks.reloadAll()
      const isOfFonts = view.targets.includes('fonts')
      await Promise.all([loadSpecs(), refresh(), people.load(), isOfFonts && fonts.load()])
      // Captions are drawn and measured otherwise where their font came, or went.
      if (isOfFonts) await tracks.reloadAll()
      return
    }
    if (view.project_id !== project.value?.id) return
    changes.value++
    const touched = (...targets: string[]) => targets.some((target) => view.targets.includes(target))
    const done: Promise<unknown>[] = [tracks.happened(view.tracks)]
    if (touched('transcript')) done.push(wordsWritten(view.revision))
    if (touched('terms')) termsChanges.value++
    if (touched('glossary')) termListChanges.value++
    if (touched('dictionary')) dictionaryChanges.value++
    if (touched('styles', 'speakers', 'tracks')) styleChanges.value++
    if (view.targets.some((target) => target.includes('/versions'))) versionChanges.value++
    if (touched('tracks') || view.targets.some((target) => target.endsWith('/links'))) linkChanges.value++
    const ofFilms = view.targets.some((target) => target.startsWith('films/'))
    if (ofFilms || touched('project', 'tracks', 'specs', 'speakers')) done.push(refreshed())
    await Promise.all(done)
    // By another spec, in another language or with other shot changes captions are judged otherwise.
    // In another style they are drawn otherwise.
    if (ofFilms || touched('project', 'tracks', 'specs', 'styles', 'speakers', 'glossary', 'dictionary')) await tracks.reloadAll()
  }

  /** The project as it is now; a track that was removed is not worked on any more. */
  async function refreshed() {
    await refresh()
    const listed = project.value!.tracks
    if (!listed.some(({ id }) => id === tracks.currentId)) await tracks.select(listed[0]!.id)
  }

  async function jobChanged(job: JobView) {
    const known = allJobs.value.find((other) => other.id === job.id)
    if (known && known.version >= job.version) return
    allJobs.value = known ? allJobs.value.map((other) => (other.id === job.id ? job : other)) : [job, ...allJobs.value]
    if (job.kind === 'recognise') await loadWords(job.state === 'done')
    if (job.kind === 'fit-words' && job.state === 'done') await loadWords(true)
    if (job.state !== 'running' && job.state !== 'waiting') await refresh()
  }

  async function change(values: { title?: string; spec_id?: string; language?: string; fps?: string }) {
    project.value = await answered(
      client.PATCH('/api/projects/{project_id}', {
        params: { path: { project_id: project.value!.id } },
        body: values,
      }),
    )
    if (values.spec_id || values.fps) await tracks.reloadAll()
  }

  /** Adds a track, empty or with the captions of another one, and opens it. */
  async function addTrack(language: string, name = '', copy_of: string | null = null) {
    const added = await answered(
      client.POST('/api/projects/{project_id}/tracks', {
        params: { path: { project_id: project.value!.id } },
        ...named(newId()),
        body: { name, language, copy_of },
      }),
    )
    await refresh()
    await tracks.select(added.id)
  }

  async function changeTrack(values: { name?: string; language?: string; spec_id?: string | null }) {
    await answered(
      client.PATCH('/api/tracks/{track_id}', { params: { path: { track_id: track.id } }, body: values }),
    )
    await Promise.all([refresh(), tracks.reloadAll()])
  }

  async function recognise(body: Schemas['RecogniseRequest']) {
    await jobChanged(
      await answered(
        client.POST('/api/projects/{project_id}/recognise', {
          params: { path: { project_id: project.value!.id } },
          body,
        }),
      ),
    )
  }

  /** Says who speaks. One change waits for the one before, so that this window is never in its own way. */
  function changeSpeakers(speakers: Schemas['NamedSpeaker'][]): Promise<void> {
    project.value = { ...project.value!, speakers }
    namesUnderWay++
    const turn = naming.then(() => putSpeakers(speakers))
    naming = turn.catch(() => undefined)
    return turn
  }

  async function putSpeakers(speakers: Schemas['NamedSpeaker'][]) {
    const base_revision = project.value!.revision
    const params = { path: { project_id: project.value!.id } }
    const body = { speakers, base_revision }
    let read: ProjectView | null = null
    try {
      tookHistory(await answered(client.PUT('/api/projects/{project_id}/speakers', { params, ...named(newId()), body })))
      read = await answered(client.GET('/api/projects/{project_id}', { params }))
    } finally {
      // No sooner: a project that was read before the names were stored may still be on its way.
      namesUnderWay--
    }
    take(read)
    await loadWords(true)
  }

  /** Puts a shot change on a frame, or takes it away. */
  async function toggleShot(at_ms: number) {
    const { id } = project.value!
    try {
      const { shots } = await answered(
        client.POST('/api/projects/{project_id}/shots/toggle', { params: { path: { project_id: id } }, body: { at_ms } }),
      )
      if (project.value?.id === id) project.value = { ...project.value, shots }
    } catch (refused) {
      track.refusal = (refused as Error).message
    }
  }

  async function burn(options: Schemas['BurnRequest']) {
    await track.settled()
    await jobChanged(
      await answered(
        client.POST('/api/tracks/{track_id}/burn', {
          params: { path: { track_id: track.id } },
          body: options,
        }),
      ),
    )
  }

  /** Follows a job that was asked for. */
  async function askFor(job: Promise<JobView>) {
    await jobChanged(await job)
  }

  async function askJob(job: JobView, what: 'cancel' | 'retry') {
    await jobChanged(
      await answered(client.POST(`/api/jobs/{job_id}/${what}`, { params: { path: { job_id: job.id } } })),
    )
  }

  /** Specs that are stored and not taken into this project yet. */
  const specsUnderWay = ref(0)
  /** Whether the house has a newer version of the spec that the track is judged by. */
  const specIsOlder = computed(() => !specsUnderWay.value && (trackInfo.value?.spec_is_older ?? false))

  async function addSpec(text: string): Promise<Spec> {
    specsUnderWay.value++
    try {
      const added = await answered(
        client.POST('/api/specs', {
          body: text as never,
          bodySerializer: (body) => body as unknown as string,
          headers: { 'Content-Type': 'application/json' },
        }),
      )
      await loadSpecs()
      await takeSpec(added.id)
      return added
    } finally {
      specsUnderWay.value--
    }
  }

  /** Judges by a spec as it is now, where it is judged by one of that name; other projects keep what they took. */
  async function takeSpec(id: string) {
    if (trackInfo.value?.spec_id === id) await changeTrack({ spec_id: id })
    if (project.value?.spec.id === id) await change({ spec_id: id })
  }

  return {
    project, jobs, words, wordsRevision, wordsHistory, termsChanges, changes, styleChanges, versionChanges, linkChanges, termListChanges, dictionaryChanges, specs, missing, rate, hasFilm, fetching, durationMs, isPastEnd, leastGapMs, busy, trackInfo,
    latest, open, close, refresh, took, change, changeTrack, toggleShot, loadWords, writeWords, retimeWords, changeSpeakers, addTrack, openTrack: tracks.select, happened, recognise, burn, askFor, askJob, addSpec, takeSpec, specIsOlder, loadSpecs,
  }
})
