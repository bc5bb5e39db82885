/** The sound beside the cards, drawn whenever something of it arrives or another part is in sight. */
import { computed, onMounted, type Ref, watch, watchEffect } from 'vue'

import { drawSound, pageColours } from '@/score/drawing'
import { usePeaks } from '@/score/peaks'
import { useSoundLook } from '@/score/soundLook'
import { useSpectrum } from '@/score/spectrum'
import { useProject } from '@/session/projectStore'
import { useTrack } from '@/session/tracksStore'
import type { Sight } from '@/score/usePageScroll'
import { useTiming } from '@/stages/time/timingStore'

const RULER = 46

export function useDrawnSound(canvas: Ref<HTMLCanvasElement | null>, { geometry, rows, range, top, pageHeight }: Sight) {
  const project = useProject()
  const track = useTrack()
  const timing = useTiming()
  const peaks = usePeaks()
  const spectrum = useSpectrum()
  const look = useSoundLook()
  const soundWidth = computed(() => (rows.value ? 70 : RULER + 112))

  onMounted(() => {
    watch(() => project.project?.film.id, (id) => id && peaks.open(id), { immediate: true })
    watch(
      () => project.latest('peaks')?.state,
      (state) => state === 'done' && project.hasFilm && peaks.open(project.project!.film.id),
    )
  })

  watchEffect(
    () => {
      void peaks.arrived.value
      void spectrum.arrived.value
      if (!canvas.value || !pageHeight.value) return
      const [from, to] = range.value
      drawSound(canvas.value, {
        geometry: geometry.value,
        filmId: project.project?.film.id ?? '',
        peaks,
        spectrum,
        look: look.value,
        top: top.value,
        width: soundWidth.value,
        height: pageHeight.value,
        rulerWidth: rows.value ? 4 : RULER,
        durationMs: project.durationMs,
        colours: pageColours.value,
        speech: timing.speech,
        shots: project.project?.shots ?? [],
        rate: project.rate,
        covered: rows.value ? [] : track.captions.slice(from, to).map((c) => [c.in_ms, c.out_ms] as const),
      })
    },
    { flush: 'post' },
  )

  return { soundWidth }
}
