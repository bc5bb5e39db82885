/** The open project: its film, its jobs, its words, and the stream of what happens to it. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'

import { answered, client, type EditView, type JobView, type ProjectView, type Schemas, type Spec, type Word, type WordsView } from '@/api/client'
import { useTrack } from '@/project/trackStore'
import { startOfFrame } from '@/shared/time'

export const useProject = defineStore('project', () => {
  const project = shallowRef<ProjectView | null>(null)
  const jobs = shallowRef<readonly JobView[]>([])
  const words = shallowRef<readonly Word[]>([])
  const wordsRevision = ref(0)
  const specs = shallowRef<readonly Spec[]>([])
  const missing = ref('')
  let run: string | null = null
  let stream: EventSource | null = null
  let writing: Promise<unknown> = Promise.resolve()

  const track = useTrack()
  const rate = computed(() => project.value?.film.frame_rate ?? { numerator: 25, denominator: 1 })
  const durationMs = computed(() => project.value?.film.duration_ms ?? 0)
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
      missing.value = (problem as Error).message
      return
    }
    // What happens while it is read would be missed: it is read once the stream says that it follows.
    await follow(projectId)
    await Promise.all([refresh(), track.open(project.value!.tracks[0]!.id), loadWords(true), loadSpecs()])
  }

  function close() {
    stream?.close()
    stream = null
    project.value = null
    words.value = []
    wordsRevision.value = 0
    run = null
    missing.value = ''
  }

  async function refresh(projectId = project.value!.id) {
    const view = await answered(client.GET('/api/projects/{project_id}', { params: { path: { project_id: projectId } } }))
    project.value = view
    jobs.value = view.jobs
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
    words.value = anew ? view.words : [...words.value, ...view.words]
  }

  /**
   * Writes words in the place of others, from one on.
   * @throws Refused when the transcript is another one by now
   */
  async function writeWords(body: Schemas['TranscriptEdit']): Promise<WordsView> {
    const request = answered(client.POST('/api/projects/{project_id}/transcript/edits', { params: { path: { project_id: project.value!.id } }, body }))
    writing = request.catch(() => null)
    const answer = await request
    // They may have been read already, with what another window wrote.
    if (answer.revision > wordsRevision.value) {
      run = answer.run
      wordsRevision.value = answer.revision
      words.value = words.value.toSpliced(body.first, body.count, ...answer.words)
    }
    return answer
  }

  /** Reads the transcript again when another window wrote in it. */
  async function wordsWritten(revision: number) {
    await writing
    if (revision > wordsRevision.value) await loadWords(true)
  }

  /** Follows a project's events; ends when they come in, and comes back after every break. */
  function follow(projectId: string): Promise<void> {
    const source = new EventSource(`/api/projects/${projectId}/events`)
    stream = source
    source.addEventListener('edit', (event) => void track.happened(JSON.parse(event.data) as EditView))
    source.addEventListener('judged', (event) => void judgedAnew((JSON.parse(event.data) as { track_id: string }).track_id))
    source.addEventListener('words', (event) => void wordsWritten((JSON.parse(event.data) as { revision: number }).revision))
    source.addEventListener('job', (event) => void jobChanged(JSON.parse(event.data) as JobView))
    return new Promise((resolve) => {
      let first = true
      source.addEventListener('ready', () => {
        if (!first) void Promise.all([refresh(), track.reload(), loadWords(true)])
        first = false
        resolve()
      })
    })
  }

  async function jobChanged(job: JobView) {
    const known = jobs.value.find((other) => other.id === job.id)
    if (known && known.version >= job.version) return
    jobs.value = known ? jobs.value.map((other) => (other.id === job.id ? job : other)) : [job, ...jobs.value]
    if (job.kind === 'recognise') await loadWords(job.state === 'done')
    if (job.kind === 'fit-words' && job.state === 'done') await loadWords(true)
    if (job.state !== 'running' && job.state !== 'waiting') await refresh()
  }

  async function change(values: { title?: string; spec_id?: string; language?: string }) {
    project.value = await answered(
      client.PATCH('/api/projects/{project_id}', {
        params: { path: { project_id: project.value!.id } },
        body: values,
      }),
    )
    if (values.spec_id) await judgedAnew(track.id)
  }

  /** A track is judged by another spec now, or with other waivers. */
  async function judgedAnew(trackId: string) {
    await Promise.all([loadSpecs(), refresh()])
    if (trackId !== track.id || !track.loaded) return
    await track.settled()
    await track.reload()
  }

  async function openTrack(trackId: string) {
    await track.settled()
    await track.open(trackId)
  }

  /** Adds an empty track, and opens it. */
  async function addTrack(language: string) {
    const added = await answered(
      client.POST('/api/projects/{project_id}/tracks', {
        params: { path: { project_id: project.value!.id } },
        body: { name: '', language },
      }),
    )
    await refresh()
    await openTrack(added.id)
  }

  async function changeTrack(values: { name?: string; language?: string; spec_id?: string | null }) {
    await answered(
      client.PATCH('/api/tracks/{track_id}', { params: { path: { track_id: track.id } }, body: values }),
    )
    await judgedAnew(track.id)
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

  async function changeSpeakers(speakers: Schemas['NamedSpeaker'][]) {
    project.value = { ...project.value!, speakers }
    await answered(
      client.PUT('/api/projects/{project_id}/speakers', {
        params: { path: { project_id: project.value!.id } }, body: { speakers },
      }),
    )
    await refresh()
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

  async function burn(options: { crf: number; height: number | null }) {
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

  async function addSpec(text: string): Promise<Spec> {
    const added = await answered(
      client.POST('/api/specs', {
        body: text as never,
        bodySerializer: (body) => body as unknown as string,
        headers: { 'Content-Type': 'application/json' },
      }),
    )
    await loadSpecs()
    return added
  }

  return {
    project, jobs, words, wordsRevision, specs, missing, rate, durationMs, leastGapMs, busy, trackInfo,
    latest, open, close, refresh, change, changeTrack, toggleShot, loadWords, writeWords, changeSpeakers, addTrack, openTrack, recognise, burn, askFor, askJob, addSpec, loadSpecs,
  }
})
