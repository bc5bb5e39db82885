/** What can be done to captions by key, on the Score and in every stage that shows it. */
import { watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRoute } from 'vue-router'

import { usePlayer } from '@/picture/playerStore'
import { type Caption, indexAt } from '@/session/captions'
import { useProject } from '@/session/projectStore'
import { useHistory } from '@/session/historyStore'
import { retiming } from '@/session/merging'
import { repeatedGesture } from '@/session/repeats'
import { newCaption, newId, useTrack } from '@/session/tracksStore'
import { nudgedBy, useNudge } from '@/score/nudge'
import { useFollowSpoken, useSelection } from '@/score/selectionStore'
import { type Command, keysWaitFor, useCommands } from '@/kit/commands/commands'
import { moveFrames, snap } from '@/kit/time'

const NEW_CAPTION_MS = 2000

export function useCaptionCommands() {
  const track = useTrack()
  const history = useHistory()
  const project = useProject()
  const player = usePlayer()
  const selection = useSelection()
  const { t } = useI18n()
  const route = useRoute()

  const spoken = useFollowSpoken()
  const hasCurrent = () => selection.current !== undefined
  const inText = () => selection.writingId !== null

  function retime(times: { caption: string; in_ms: number; out_ms: number }[], gesture = newId()) {
    if (times.length) track.edit(retiming(times), gesture)
  }

  function setIn() {
    const { id, out_ms, in_ms } = selection.current!
    const at = snap(player.timeMs, project.rate)
    // An in behind the out takes the whole caption along.
    retime([{ caption: id, in_ms: at, out_ms: at < out_ms ? out_ms : at + (out_ms - in_ms) }])
  }

  function setOut() {
    const { id, in_ms } = selection.current!
    const at = snap(player.timeMs, project.rate)
    if (at <= in_ms) track.refusal = t('refusal.outBeforeIn')
    else retime([{ caption: id, in_ms, out_ms: at }])
  }

  const nudgeStep = useNudge()
  const nudgeGesture = repeatedGesture()

  function nudge(what: 'in' | 'out' | 'whole', direction: 1 | -1) {
    const gesture = nudgeGesture(what)
    const by = (ms: number) => nudgedBy(ms, direction, nudgeStep.value, project.rate)
    const move = (caption: Caption) => {
      const in_ms = what === 'out' ? caption.in_ms : by(caption.in_ms)
      const moved = in_ms - caption.in_ms
      const out_ms =
        what === 'in' ? caption.out_ms : what === 'whole' ? caption.out_ms + moved : by(caption.out_ms)
      return { caption: caption.id, in_ms, out_ms }
    }
    const times = selection.selected.map(move)
    if (times.every((entry) => entry.out_ms > entry.in_ms)) retime(times, gesture)
  }

  function insert() {
    const { rate } = project
    const in_ms = snap(player.timeMs, rate)
    const next = track.captions[indexAt(track.captions, in_ms) + 1]
    const wanted = Math.min(in_ms + NEW_CAPTION_MS, next ? next.in_ms - project.leastGapMs : Infinity)
    const out_ms = Math.max(snap(wanted, rate), moveFrames(in_ms, 1, rate))
    const caption = newCaption(in_ms, out_ms)
    track.edit({ kind: 'insert-captions', captions: [caption] }, newId())
    selection.write(caption.id)
  }

  function remove() {
    const ids = selection.selected.map((caption) => caption.id)
    if (!ids.length) return
    const after = track.captions[selection.currentIndex + 1] ?? track.captions[selection.currentIndex - ids.length]
    track.edit({ kind: 'delete-captions', captions: ids }, newId())
    selection.only(after && !ids.includes(after.id) ? after.id : null)
  }

  function merge() {
    const many = selection.selected
    const index = selection.currentIndex
    const parts = many.length > 1 ? many : track.captions.slice(index, index + 2)
    if (parts.length < 2) {
      track.refusal = t('refusal.nothingToMerge')
      return
    }
    track.edit({ kind: 'merge-captions', captions: parts.map((caption) => caption.id) }, newId())
    selection.only(parts[0]!.id)
  }

  async function split() {
    const { id } = selection.current!
    const field = document.activeElement
    const place =
      field instanceof HTMLTextAreaElement ? { offset: field.selectionStart } : { at_ms: Math.round(player.timeMs) }
    selection.stopWriting()
    const second = track.split(id, place)
    // Keys pressed meanwhile are meant for what comes of it.
    await keysWaitFor(track.settled())
    if (track.byId.has(second)) selection.only(second)
    else selection.write(id)
  }

  /** Breaks the lines of the selected anew, or makes each one line; the cursor stays in the text. */
  async function breakLines(lines: 'best' | 'one') {
    const writing = selection.writingId
    const field = document.activeElement
    const at = field instanceof HTMLTextAreaElement ? field.selectionStart : null
    const captions = writing ? [writing] : selection.selected.map((caption) => caption.id)
    await keysWaitFor(track.breakLines({ captions, lines }))
    if (writing && selection.writingId !== writing) selection.write(writing, at)
  }

  function select(direction: 1 | -1, extend = false) {
    const caption = selection.beside(direction, player.timeMs)
    if (!caption) return
    if (extend) selection.extendTo(caption.id)
    else selection.only(caption.id)
    if (!player.playing) player.place(caption.in_ms)
  }

  function hear() {
    const { in_ms, out_ms } = selection.current!
    player.hear(in_ms, out_ms)
  }

  function leaveText() {
    selection.stopWriting()
    document.querySelector<HTMLElement>('.page')?.focus({ preventScroll: true })
  }

  async function step(direction: 'undo' | 'redo') {
    const made = await history.step(direction)
    const own = made?.tracks.find((edit) => edit.track_id === track.id)
    const changed = own?.touched.find((id) => track.byId.has(id))
    // The selection stays where one works, unless that is gone.
    if (changed && !selection.current) selection.only(changed)
  }

  const list: Command[] = [
    { id: 'caption-next', run: () => select(1) },
    { id: 'caption-before', run: () => select(-1) },
    { id: 'select-next', run: () => select(1, true) },
    { id: 'select-before', run: () => select(-1, true) },
    { id: 'select-all', run: () => selection.all() },
    { id: 'write', run: () => selection.write(selection.currentId!), enabled: hasCurrent },
    { id: 'leave-text', run: leaveText, enabled: inText },
    { id: 'select-none', run: () => selection.only(null) },
    { id: 'set-in', run: setIn, enabled: hasCurrent },
    { id: 'set-out', run: setOut, enabled: hasCurrent },
    { id: 'in-earlier', run: () => nudge('in', -1), enabled: hasCurrent },
    { id: 'in-later', run: () => nudge('in', 1), enabled: hasCurrent },
    { id: 'out-earlier', run: () => nudge('out', -1), enabled: hasCurrent },
    { id: 'out-later', run: () => nudge('out', 1), enabled: hasCurrent },
    { id: 'earlier', run: () => nudge('whole', -1), enabled: hasCurrent },
    { id: 'later', run: () => nudge('whole', 1), enabled: hasCurrent },
    { id: 'insert', run: insert },
    { id: 'delete', run: remove, enabled: hasCurrent },
    { id: 'split', run: () => void split(), enabled: hasCurrent },
    { id: 'merge', run: merge, enabled: hasCurrent },
    { id: 'break-lines', run: () => void breakLines('best'), enabled: hasCurrent },
    { id: 'join-lines', run: () => void breakLines('one'), enabled: hasCurrent },
    { id: 'hear', run: hear, enabled: hasCurrent },
    { id: 'follow-spoken', run: () => (spoken.value = !spoken.value) },
  ]
  useCommands([
    // Where nothing can be taken back, a field takes its typing back by itself.
    { id: 'undo', run: () => void step('undo'), enabled: () => history.view !== 'none', why: 'now' },
    { id: 'redo', run: () => void step('redo'), enabled: () => history.view !== 'none', why: 'now' },
  ])
  // A transcript has words; captions that are not in sight are not changed by a key.
  const inSight = () => route.name !== 'transcribe'
  useCommands(
    list.map((command) => ({ ...command, enabled: () => inSight() && (command.enabled?.() ?? true), why: inSight() ? 'caption' : 'captions' })),
  )

  // While the film plays, the caption that is spoken is the one to work on, so that a pause is where it was heard.
  watch(
    () => player.playing && spoken.value && inSight() && !player.hearing && player.timeMs,
    (ms) => {
      if (typeof ms !== 'number' || selection.writingId || selection.awaitedId || selection.ids.size > 1) return
      const shown = track.captions[indexAt(track.captions, ms)]
      if (shown && shown.out_ms > ms && shown.id !== selection.currentId) selection.only(shown.id)
    },
  )
}
