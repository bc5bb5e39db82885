/** A caption that shall stand on something in the picture: what is marked, the path it was seen to go, and what is made of it. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'

import { answered, client, type JobView } from '@/api/client'
import { frameAt, startOfFrame } from '@/kit/time'
import { usePlayer } from '@/picture/playerStore'
import { useSelection } from '@/score/selectionStore'
import { newId } from '@/session/identity'
import { useProject } from '@/session/projectStore'
import { useTrack } from '@/session/tracksStore'
import { boundsOf } from '@/stages/style/frames'
import { useLooks } from '@/stages/style/looksStore'
import { type Box, boxBetween, boxOnPath, inPicture, type Mark, markNear, nextDoubt, type PathView, withMark } from '@/stages/style/paths'
import { changeOf } from '@/stages/style/setting'

/** What is taken of a path. */
export type Taken = 'moments' | 'moments-and-times' | 'times'

interface Asked {
  track_id: string
  caption: string
  marks: readonly (Box & { frame: number })[]
}

/** Around the letters, in heights of the picture, a first mark has room. */
const ROOM = 0.02

export const useSticking = defineStore('sticking', () => {
  const project = useProject()
  const track = useTrack()
  const selection = useSelection()
  const player = usePlayer()
  const looks = useLooks()

  /** The caption that is being stuck; null while none is. */
  const captionId = ref<string | null>(null)
  const marks = shallowRef<readonly Mark[]>([])
  /** What a hand makes of the box just now. */
  const live = shallowRef<Box | null>(null)
  const path = shallowRef<PathView | null>(null)
  const problem = ref('')
  /** Whether something that was asked for is not answered yet. */
  const busy = ref(false)
  /** The marks that the job in hand was asked for. */
  const followed = shallowRef<readonly Mark[]>([])

  const caption = computed(() => (captionId.value ? track.byId.get(captionId.value) : undefined))
  const frame = computed(() => frameAt(player.timeMs, project.rate))
  const nowMs = computed(() => startOfFrame(frame.value, project.rate))
  const jobOf = (id: string) =>
    project.jobs.find(({ kind, parameters }) => kind === 'follow' && (parameters as unknown as Asked).track_id === track.id && (parameters as unknown as Asked).caption === id)
  const job = computed<JobView | undefined>(() => (captionId.value ? jobOf(captionId.value) : undefined))
  const active = computed(() => job.value?.state === 'waiting' || job.value?.state === 'running')
  /** Whether what is marked is not what was followed. */
  const isNew = computed(() => !path.value || JSON.stringify(marks.value) !== JSON.stringify(followed.value))
  const firstFrame = computed(() => (path.value ? frameAt(path.value.first_ms, project.rate) : 0))
  const markHere = computed(() => marks.value.find(({ at_ms }) => at_ms === nowMs.value))
  /** Where the box is at this frame. */
  const box = computed<Box | null>(() => live.value ?? markHere.value ?? (path.value && boxOnPath(path.value, frame.value - firstFrame.value)) ?? markNear(marks.value, nowMs.value) ?? null)
  const sureHere = computed(() => path.value?.sure[frame.value - firstFrame.value])

  watch(() => selection.currentId, leave)
  watch(() => track.byId.has(captionId.value ?? ''), (there) => !there && leave())

  /** Begins with what was marked for this caption before, or with a box around its letters. */
  function open() {
    const [now, at] = [selection.current, selection.currentId ? looks.frameOf(selection.currentId) : null]
    if (!now) return
    leave()
    captionId.value = now.id
    const before = jobOf(now.id)
    if (before) {
      marks.value = marksOf(before)
      return
    }
    const { width, height } = looks.size
    const [left, top, right, bottom] = at ? boundsOf(at) : [width / 3, height / 3, (width * 2) / 3, (height * 2) / 3]
    const room = ROOM * height
    marks.value = [{ at_ms: nowMs.value, ...boxBetween({ x: left - room, y: top - room }, { x: right + room, y: bottom + room }, looks.size) }]
  }
  const marksOf = (one: JobView): Mark[] =>
    (one.parameters as unknown as Asked).marks.map(({ frame: at, ...rest }) => ({ at_ms: startOfFrame(at, project.rate), ...rest }))

  function leave() {
    captionId.value = null
    marks.value = []
    live.value = null
    path.value = null
    followed.value = []
    problem.value = ''
  }

  // A path is read once it is found, whichever window asked for it.
  watch(
    () => (job.value?.state === 'done' ? job.value.id : null),
    async (id) => {
      if (!id) return
      const found = await answered(client.GET('/api/jobs/{job_id}/path', { params: { path: { job_id: id } } })).catch((why: Error) => {
        problem.value = why.message
        return null
      })
      if (!found || job.value?.id !== id) return
      path.value = found
      followed.value = marksOf(job.value)
    },
    { immediate: true },
  )

  /** Marks at this frame where the box is. */
  function put(wanted: Box) {
    live.value = null
    problem.value = ''
    marks.value = withMark(marks.value, { at_ms: nowMs.value, ...inPicture(wanted) })
  }
  /** Changes the box at this frame. */
  function change(by: (box: Box) => Partial<Box>) {
    const now = box.value
    if (now) put({ ...now, ...by(now) })
  }
  /** Takes the mark at this frame away; one always stays. */
  function remove() {
    if (markHere.value && marks.value.length > 1) marks.value = marks.value.filter((mark) => mark !== markHere.value)
  }

  const here = () => ({ params: { path: { track_id: track.id } } })

  /** Has what is marked followed, forth and back. */
  async function follow() {
    if (!captionId.value || active.value || busy.value) return
    await asking(async () => {
      const body = { caption: captionId.value!, marks: [...marks.value] }
      await project.askFor(answered(client.POST('/api/tracks/{track_id}/follow', { ...here(), body })))
    })
  }

  /** Has the caption go along with what was followed, from where it stands now. */
  async function take(what: Taken) {
    const [one, id] = [job.value, captionId.value]
    if (!id || !one || !path.value || busy.value) return
    await asking(async () => {
      await track.settled()
      const body = { caption: id, job: one.id, at_ms: Math.round(player.timeMs), take_times: what !== 'moments' }
      const found = await answered(client.POST('/api/tracks/{track_id}/stuck', { ...here(), body }))
      const [now, look] = [track.byId.get(id), looks.lookOf(id)]
      if (!now || !look) return
      const times = what === 'moments' ? {} : { in_ms: found.in_ms, out_ms: found.out_ms }
      const said = what === 'times' ? {} : changeOf(now, look, { moments: found.moments })
      track.edit({ kind: 'change-captions', changes: [{ caption: id, ...said, ...times }] }, newId())
      leave()
    })
  }

  async function asking(ask: () => Promise<void>) {
    busy.value = true
    problem.value = ''
    try {
      await ask()
    } catch (refused) {
      problem.value = (refused as Error).message
    } finally {
      busy.value = false
    }
  }

  /** Goes to where the path is least sure. */
  function goToDoubt() {
    const doubt = path.value && nextDoubt(path.value.sure, frame.value - firstFrame.value)
    if (doubt !== null && doubt !== undefined) player.place(startOfFrame(firstFrame.value + doubt, project.rate))
  }
  const isDoubtful = computed(() => Boolean(path.value && nextDoubt(path.value.sure, -1) !== undefined))

  return {
    captionId, caption, marks, live, path, problem, busy, job, active, isNew, firstFrame, markHere, box, sureHere, isDoubtful,
    open, leave, put, change, remove, follow, take, goToDoubt,
  }
})
