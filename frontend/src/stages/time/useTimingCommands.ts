/** What is done by key to time one caption after the other. */
import { useI18n } from 'vue-i18n'

import { answered, client, type Schemas } from '@/api/client'
import { usePlayer } from '@/picture/playerStore'
import { type Caption, indexAt } from '@/session/captions'
import { useProject } from '@/session/projectStore'
import { retiming } from '@/session/merging'
import { newCaption, newId, useTrack } from '@/session/tracksStore'
import { useSelection } from '@/score/selectionStore'
import { useCommands } from '@/kit/commands/commands'
import { snap } from '@/kit/time'
import { useTiming } from '@/stages/time/timingStore'

const PART_MS = 500
const NEW_CAPTION_MS = 2000

export function useTimingCommands() {
  const track = useTrack()
  const project = useProject()
  const player = usePlayer()
  const selection = useSelection()
  const timing = useTiming()
  const { t } = useI18n()

  const hasCurrent = () => selection.current !== undefined
  const gap = () => project.leastGapMs

  function hear(from: (caption: Caption) => number, to: (caption: Caption) => number, loop = false, speed = 1) {
    const caption = selection.current!
    player.speed = speed
    player.hear(Math.max(from(caption), 0), Math.max(to(caption), from(caption) + 40), loop)
  }

  /** This one is right as it is: on to the next. */
  function acceptAndGoOn() {
    goOn(track.captions[selection.currentIndex + 1])
  }

  function goOn(next: Caption | undefined, in_ms = next?.in_ms) {
    if (!next) return
    selection.only(next.id)
    if (!player.playing) player.place(in_ms!)
  }

  /** Ends this one at the playhead, and goes to the next, which follows after the gap. */
  function endAndGoOn() {
    const { id, in_ms, out_ms } = selection.current!
    const next = track.captions[selection.currentIndex + 1]
    const at = snap(player.timeMs, project.rate)
    const gesture = newId()
    // Before its in there is no out to set.
    const out = at > in_ms ? at : out_ms
    const times: Schemas['Times'][] = []
    if (out !== out_ms) times.push({ caption: id, in_ms, out_ms: out })
    if (next && next.in_ms < out + gap()) {
      const in_next = snap(out + gap(), project.rate)
      times.push({ caption: next.id, in_ms: in_next, out_ms: Math.max(next.out_ms, in_next + (next.out_ms - next.in_ms)) })
    }
    if (times.length) track.edit(retiming(times), gesture)
    goOn(next, times.find((entry) => entry.caption === next?.id)?.in_ms)
  }

  function put(in_ms: number, out_ms: number, write = true, spans: Caption['spans'] = []) {
    const start = snap(Math.max(in_ms, 0), project.rate)
    const end = Math.max(snap(out_ms, project.rate), snap(start + 100, project.rate))
    const caption = newCaption(start, end, spans)
    track.edit({ kind: 'insert-captions', captions: [caption] }, newId())
    if (write) selection.write(caption.id)
    else selection.only(caption.id)
  }

  function insertBefore() {
    const caption = selection.current!
    const before = track.captions[selection.currentIndex - 1]
    const end = caption.in_ms - gap()
    const room = before ? before.out_ms + gap() : 0
    if (end - room < 100) track.refusal = t('refusal.noRoom')
    else put(Math.max(room, end - NEW_CAPTION_MS), end)
  }

  function insertAfter() {
    const caption = selection.current!
    const next = track.captions[selection.currentIndex + 1]
    const start = caption.out_ms + gap()
    const room = next ? next.in_ms - gap() : project.durationMs
    if (room - start < 100) track.refusal = t('refusal.noRoom')
    else put(start, Math.min(room, start + NEW_CAPTION_MS))
  }

  /** Fills the gap at the playhead: to the speech in it, or all of it where there is none. */
  function insertInGap() {
    const at = player.timeMs
    const index = indexAt(track.captions, at)
    const before = track.captions[index]
    if (before && before.out_ms > at) {
      track.refusal = t('refusal.noGap')
      return
    }
    const next = track.captions[index + 1]
    const from = before ? before.out_ms + gap() : 0
    const to = next ? next.in_ms - gap() : project.durationMs
    const heard = timing.speech.filter((stretch) => stretch.end_ms > from && stretch.start_ms < to)
    const near = heard.find((stretch) => stretch.end_ms > at) ?? heard.at(-1)
    const most = track.spec?.greatest_duration_ms ?? 7000
    const start = near ? Math.max(near.start_ms, from) : from
    const end = Math.min(near ? Math.min(near.end_ms, to) : to, start + most)
    if (end - start < 100) track.refusal = t('refusal.noRoom')
    else put(start, end)
  }

  function duplicate() {
    const caption = selection.current!
    put(caption.out_ms + gap(), caption.out_ms + gap() + (caption.out_ms - caption.in_ms), false, caption.spans)
  }

  /** One caption for each line of what was copied, behind the current one or at the playhead. */
  async function fromClipboard() {
    const text = await navigator.clipboard.readText().catch(() => '')
    const lines = text.split(/\r?\n/).map((line) => line.trim()).filter(Boolean)
    if (!lines.length) {
      track.refusal = t('refusal.nothingCopied')
      return
    }
    let at = snap(selection.current ? selection.current.out_ms + gap() : player.timeMs, project.rate)
    const captions = lines.map((line) => {
      const in_ms = at
      const out_ms = snap(in_ms + Math.max(1000, (line.length / (track.spec?.reading_speed ?? 15)) * 1000), project.rate)
      at = snap(out_ms + gap(), project.rate)
      return newCaption(in_ms, out_ms, [{ text: line, italic: false, bold: false, underline: false, extras: [] }])
    })
    track.edit({ kind: 'insert-captions', captions }, newId())
    selection.only(captions[0]!.id)
  }

  function mergeBefore() {
    const before = track.captions[selection.currentIndex - 1]
    if (!before) {
      track.refusal = t('refusal.nothingBefore')
      return
    }
    track.edit({ kind: 'merge-captions', captions: [before.id, selection.currentId!] }, newId())
    selection.only(before.id)
  }

  function swapTexts() {
    const chosen = selection.selected
    const [first, second] = chosen.length === 2 ? chosen : [selection.current, track.captions[selection.currentIndex + 1]]
    if (!first || !second) {
      track.refusal = t('refusal.nothingToSwap')
      return
    }
    const changes = [{ caption: first.id, spans: second.spans }, { caption: second.id, spans: first.spans }]
    track.edit({ kind: 'change-captions', changes }, newId())
  }

  /** This caption and all later ones, so that it comes in at the playhead. */
  async function moveAllLater() {
    const caption = selection.current!
    const by = snap(player.timeMs, project.rate) - caption.in_ms
    if (!by) return
    await track.settled()
    const { times } = await answered(
      client.POST('/api/tracks/{track_id}/retiming', {
        params: { path: { track_id: track.id } },
        body: { way: { kind: 'by', amount: `${by}ms` }, from_ms: caption.in_ms, edges: 'both', below_zero: 'hold', on_frames: true },
      }),
    )
    track.edit(retiming(times), newId())
  }

  /** Keeps the selected at their times; where all are kept already, lets go of them. */
  function lock() {
    const captions = selection.selected.map((caption) => caption.id)
    const locked = !selection.selected.every((caption) => caption.locked)
    track.edit({ kind: 'change-captions', changes: captions.map((caption) => ({ caption, locked })) }, newId())
  }

  useCommands([
    { id: 'accept', run: acceptAndGoOn, enabled: hasCurrent },
    { id: 'end-and-on', run: endAndGoOn, enabled: hasCurrent },
    { id: 'hear-first', run: () => hear((c) => c.in_ms, (c) => Math.min(c.in_ms + PART_MS, c.out_ms)), enabled: hasCurrent },
    { id: 'hear-last', run: () => hear((c) => Math.max(c.out_ms - PART_MS, c.in_ms), (c) => c.out_ms), enabled: hasCurrent },
    { id: 'hear-before', run: () => hear((c) => c.in_ms - PART_MS, (c) => c.in_ms), enabled: hasCurrent },
    { id: 'hear-after', run: () => hear((c) => c.out_ms, (c) => c.out_ms + PART_MS), enabled: hasCurrent },
    { id: 'hear-loop', run: () => hear((c) => c.in_ms, (c) => c.out_ms, true), enabled: hasCurrent },
    { id: 'hear-slow', run: () => hear((c) => c.in_ms, (c) => c.out_ms, false, 0.5), enabled: hasCurrent },
    { id: 'insert-before', run: insertBefore, enabled: hasCurrent },
    { id: 'insert-after', run: insertAfter, enabled: hasCurrent },
    { id: 'insert-gap', run: insertInGap },
    { id: 'insert-clipboard', run: () => void fromClipboard() },
    { id: 'duplicate', run: duplicate, enabled: hasCurrent },
    { id: 'merge-before', run: mergeBefore, enabled: hasCurrent },
    { id: 'swap-texts', run: swapTexts, enabled: hasCurrent },
    { id: 'lock', run: lock, enabled: hasCurrent },
    { id: 'shot-change', run: () => void project.toggleShot(Math.round(player.timeMs)) },
    { id: 'move-all-later', run: () => void moveAllLater(), enabled: hasCurrent },
  ])
}
