/** What of the captions is in sight: cards, where they would stand, the gaps between them, and findings beside them. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

import { seconds } from '@/kit/time'
import { type Lane, lanes, stacked } from '@/score/geometry'
import { spokenBetween } from '@/score/snapping'
import { openFindings, textOf } from '@/session/captions'
import { useTrack } from '@/session/tracksStore'
import type { Sight } from '@/score/usePageScroll'
import { useTiming } from '@/stages/time/timingStore'

/** Gaps shorter than this need no label. */
const LABELLED_GAP_MS = 700
const ALONE: Lane = { lane: 0, of: 1 }
const NOTE_HEIGHT = 38

export function useShownCaptions({ geometry, rows, range, top, pageHeight }: Sight) {
  const { t } = useI18n()
  const track = useTrack()
  const timing = useTiming()

  const laneOf = computed(() => (rows.value ? [] : lanes(track.captions)))
  const cards = computed(() => {
    const [from, to] = range.value
    return track.captions
      .slice(from, to)
      .map((caption, i) => ({ caption, number: from + i + 1, box: geometry.value.box(from + i), lane: laneOf.value[from + i] ?? ALONE }))
  })
  /** Where captions would stand, for a change that is looked at before it is made. */
  const ghosts = computed(() => {
    if (rows.value || !timing.ghosts.size) return []
    const from = geometry.value.ms(top.value)
    const to = geometry.value.ms(top.value + pageHeight.value)
    const found = []
    for (const { caption, in_ms, out_ms } of timing.ghosts.values()) {
      const known = track.byId.get(caption)
      if (!known || known.locked || out_ms < from || in_ms > to || (known.in_ms === in_ms && known.out_ms === out_ms)) continue
      const y = geometry.value.y(in_ms)
      found.push({ id: caption, top: y, height: Math.max(geometry.value.y(out_ms) - y, 4), text: textOf(known).split('\n')[0] })
    }
    return found
  })
  const gaps = computed(() => {
    if (rows.value) return []
    const [from, to] = range.value
    const found = []
    let before = track.captions[Math.max(from, 1) - 1]
    for (let i = Math.max(from, 1); before && i < to; i++) {
      const after = track.captions[i]!
      const ms = after.in_ms - before.out_ms
      if (ms < LABELLED_GAP_MS) {
        // What is still shown when others have ended leaves no gap.
        if (after.out_ms > before.out_ms) before = after
        continue
      }
      const spoken = spokenBetween(timing.speech, before.out_ms, after.in_ms)
      const what = !timing.speech.length ? 'gap' : spoken >= LABELLED_GAP_MS ? 'spoken' : 'quiet'
      const length = seconds(what === 'spoken' ? spoken : ms)
      found.push({ id: after.id, what, text: t(`score.${what}`, { length }), y: geometry.value.y(before.out_ms + ms / 2) })
      before = after
    }
    return found
  })
  const notes = computed(() => {
    const wanted = cards.value.flatMap(({ caption, box }) =>
      openFindings(caption).map((finding) => ({ finding, top: box.top + (rows.value ? 8 : 4) })),
    )
    const shown = rows.value ? wanted.filter((note, i) => wanted[i - 1]?.top !== note.top) : wanted
    const tops = stacked(shown.map((note) => ({ top: note.top, height: rows.value ? 20 : NOTE_HEIGHT })))
    return shown.map(({ finding }, i) => ({ finding, top: tops[i]! }))
  })

  return { cards, ghosts, gaps, notes }
}
