/** What is done by key while one translates: confirm and go on, hear the source, fill what nobody captioned. */
import { useStorage } from '@vueuse/core'
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

import { keysWaitFor, useCommands } from '@/kit/commands/commands'
import { following } from '@/kit/ordered'
import { snap } from '@/kit/time'
import { usePlayer } from '@/picture/playerStore'
import { useSelection } from '@/score/selectionStore'
import { type Caption, indexAt, textOf } from '@/session/captions'
import { useProject } from '@/session/projectStore'
import { newCaption, newId, useTrack, useTracks } from '@/session/tracksStore'
import { useTranslation } from '@/session/translationStore'
import { pastedLines } from '@/stages/translate/pastedLines'
import { charactersLeft } from '@/stages/translate/room'
import { speechWithoutCaption } from '@/stages/translate/speechGaps'
import { useTiming } from '@/stages/time/timingStore'

/** Which captions one goes to, and which stand out. */
export const SHOWN = ['open', 'empty', 'draft', 'doubtful', 'over', 'changed', 'later', 'done'] as const
export type Shown = (typeof SHOWN)[number]

export function useTranslateCommands() {
  const { t } = useI18n()
  const translation = useTranslation()
  const project = useProject()
  const tracks = useTracks()
  const track = useTrack()
  const player = usePlayer()
  const selection = useSelection()
  const timing = useTiming()
  const shown = useStorage<Shown>('dunlin.translate-shown', 'open')

  const show = (kind: Shown) => (shown.value = kind)

  const onTarget = computed(() => translation.pair?.target === track.id)
  const hasCurrent = () => selection.current !== undefined
  const gap = () => project.leastGapMs

  /** Whether a caption is among those that one goes to. */
  function isOf(kind: Shown, caption: Caption): boolean {
    const standing = translation.standing(caption)
    if (kind === 'open') return standing !== 'done'
    if (kind === 'over') return (charactersLeft(caption, translation.target?.spec.value?.reading_speed) ?? 0) < 0
    return standing === kind
  }
  /** How many there are of each kind, counted in one go: it is done with each letter that is typed. */
  const counts = computed(() => {
    const found = Object.fromEntries(SHOWN.map((kind) => [kind, 0])) as Record<Shown, number>
    const speed = translation.target?.spec.value?.reading_speed
    const standings = translation.standings
    for (const caption of translation.target?.captions.value ?? []) {
      const standing = standings.get(caption.id) ?? 'empty'
      if (standing !== 'done') found.open++
      if (standing !== 'begun') found[standing]++
      if ((charactersLeft(caption, speed) ?? 0) < 0) found.over++
    }
    return found
  })

  /** When what a caption translates is said, or where nothing is known of that, when it is shown itself. */
  function spoken(caption: Caption): { from: number; to: number } {
    const sources = onTarget.value ? translation.linkOf(caption.id).sources.flatMap((id) => translation.source?.byId.value.get(id) ?? []) : []
    const all = sources.length ? sources : [caption]
    return { from: Math.min(...all.map(({ in_ms }) => in_ms)), to: Math.max(...all.map(({ out_ms }) => out_ms)) }
  }
  function hearSource(speed = 1) {
    const { from, to } = spoken(selection.current!)
    player.speed = speed
    player.hear(from, to)
  }

  /** Goes into a caption, and plays what it is to say. */
  function enter(caption: Caption | undefined, hear = true) {
    if (!caption) return
    selection.write(caption.id)
    const { from, to } = spoken(caption)
    if (hear) player.hear(from, to)
    else player.place(from)
  }

  function done() {
    const caption = selection.current!
    const next = track.captions[selection.currentIndex + 1]
    if (textOf(caption).trim()) void translation.setProgress({ [caption.id]: 'done' })
    if (next) enter(next)
    else selection.stopWriting()
  }
  function later() {
    const caption = selection.current!
    const isLater = translation.linkOf(caption.id).progress === 'later'
    void translation.setProgress({ [caption.id]: isLater ? null : 'later' })
    if (!isLater) enter(track.captions[selection.currentIndex + 1])
  }
  function goToOpen() {
    const from = selection.currentIndex
    const all = track.captions
    const next = [...all.slice(from + 1), ...all.slice(0, from + 1)].find((caption) => isOf(shown.value, caption))
    if (next) enter(next)
    else track.refusal = t('translate.noneSuch', { what: t(`translate.shown.${shown.value}`) })
  }

  function copySource() {
    const caption = selection.current!
    const sources = translation.linkOf(caption.id).sources.flatMap((id) => translation.source?.byId.value.get(id) ?? [])
    if (!sources.length) {
      track.refusal = t('translate.noSource')
      return
    }
    const spans = sources.flatMap((one, index) => (index ? [{ text: '\n', italic: false, bold: false, underline: false, extras: [] }, ...one.spans] : one.spans))
    track.edit({ kind: 'change-captions', changes: [{ caption: caption.id, spans }] }, newId())
  }

  /** What was translated elsewhere and copied, line by line: into captions from the one that is worked on, in one step. */
  async function pasteLines() {
    const text = await navigator.clipboard.readText().catch(() => '')
    const { changes, written, over } = pastedLines(text, track.captions, selection.currentIndex)
    if (!changes.length) {
      track.refusal = t('refusal.nothingCopied')
    } else if (written) {
      track.refusal = t('translate.paste.written', { number: track.captions.indexOf(written) + 1 })
    } else {
      track.edit({ kind: 'change-captions', changes }, newId())
      if (over > 0) track.refusal = t('translate.paste.over', over)
    }
  }

  /** Works on the other side, on what goes with the caption that was worked on. */
  async function goAcross(caption?: string) {
    const { pair } = translation
    if (!pair?.source) return
    const here = selection.currentId ?? ''
    const other = onTarget.value ? pair.source : pair.target
    const there = caption ?? (onTarget.value ? translation.linkOf(here).sources[0] : translation.targetsOf.get(here)?.[0])
    const writing = selection.writingId !== null
    selection.stopWriting()
    await keysWaitFor(tracks.select(other))
    if (!there || !track.byId.has(there)) return selection.only(null)
    if (writing) selection.write(there)
    else selection.only(there)
  }

  /** Speech without a caption, on either side. */
  const unsaid = computed(() => ({
    target: speechWithoutCaption(timing.speech, [translation.target?.captions.value ?? []]),
    source: translation.source ? speechWithoutCaption(timing.speech, [translation.source.captions.value]) : [],
  }))
  const here = computed(() => (onTarget.value ? unsaid.value.target : unsaid.value.source))
  function goToSpeech() {
    const next = here.value.find(({ start_ms }) => start_ms > player.timeMs + 1) ?? here.value[0]
    if (!next) {
      track.refusal = t('translate.allSaid')
      return
    }
    selection.stopWriting()
    player.hear(next.start_ms, next.end_ms)
  }
  /** A caption for the speech at the playhead, or for the next that has none: as long as the voice, between its neighbours. */
  function fill(stretch = here.value.find(({ end_ms }) => end_ms > player.timeMs) ?? here.value[0]) {
    if (!stretch) {
      track.refusal = t('translate.allSaid')
      return
    }
    const index = indexAt(track.captions, stretch.start_ms)
    const before = track.captions[index]
    const next = track.captions[index + 1]
    const from = snap(Math.max(stretch.start_ms, before ? before.out_ms + gap() : 0), project.rate)
    const to = snap(Math.min(stretch.end_ms, next ? next.in_ms - gap() : project.durationMs), project.rate)
    if (to - from < 100) {
      track.refusal = t('refusal.noRoom')
      return
    }
    const caption = newCaption(from, to)
    track.edit({ kind: 'insert-captions', captions: [caption] }, newId())
    selection.write(caption.id)
    player.hear(from, to)
  }

  useCommands([
    { id: 'pair-done', run: done, enabled: () => hasCurrent() && onTarget.value, why: 'caption' },
    { id: 'pair-later', run: later, enabled: () => hasCurrent() && onTarget.value, why: 'caption' },
    { id: 'pair-open', run: goToOpen, enabled: () => onTarget.value && track.captions.length > 0, why: 'captions' },
    { id: 'pair-copy', run: copySource, enabled: () => hasCurrent() && onTarget.value, why: 'caption' },
    { id: 'pair-paste', run: () => void pasteLines(), enabled: () => hasCurrent() && onTarget.value, why: 'caption' },
    { id: 'pair-across', run: () => void goAcross(), enabled: () => Boolean(translation.pair?.source), why: 'now' },
    { id: 'pair-filter', run: () => (shown.value = following(SHOWN, shown.value)) },
    { id: 'source-hear', run: () => hearSource(), enabled: hasCurrent, why: 'caption' },
    { id: 'source-hear-slow', run: () => hearSource(0.6), enabled: hasCurrent, why: 'caption' },
    { id: 'speech-next', run: goToSpeech },
    { id: 'speech-fill', run: () => fill() },
  ])

  return { shown, show, counts, isOf, onTarget, unsaid, here, fill, goAcross, enter }
}
