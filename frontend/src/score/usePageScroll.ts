/** The page of the Score in time: at which scale, what of it is in sight, and how it goes along with the film. */
import { useElementSize, useStorage } from '@vueuse/core'
import { computed, nextTick, type Ref, ref, shallowRef, watch, watchEffect } from 'vue'

import { following } from '@/kit/ordered'
import { usePlayer } from '@/picture/playerStore'
import { EvenRows, EvenTime, type Geometry, ROWS_UNDER, SCALES } from '@/score/geometry'
import { useSelection } from '@/score/selectionStore'
import { useProject } from '@/session/projectStore'
import { useTrack } from '@/session/tracksStore'

const PLAYHEAD_AT = 0.4
/** Pixels of what was shown last that stay in sight when a page is turned. */
const TURNED_TO = 60
const SCROLLINGS = ['follow', 'page', 'still'] as const

/** What of the Score is in sight. */
export type Sight = ReturnType<typeof usePageScroll>

export function usePageScroll(page: Ref<HTMLElement | null>) {
  const project = useProject()
  const track = useTrack()
  const player = usePlayer()
  const selection = useSelection()

  const { width: pageWidth, height: pageHeight } = useElementSize(page)
  const scale = useStorage('dunlin.scale', 50)
  /** What the page does while the film plays: goes with it, turns like a page, or stays. */
  const scrolling = useStorage<(typeof SCROLLINGS)[number]>('dunlin.scrolling', 'follow')
  const top = ref(0)

  const geometry = shallowRef<Geometry>(new EvenTime([], 0, scale.value))
  watchEffect(() => {
    geometry.value =
      scale.value < ROWS_UNDER
        ? new EvenRows(track.captions, project.durationMs)
        : new EvenTime(track.captions, project.durationMs, scale.value)
  })

  const rows = computed(() => geometry.value.rows)
  const range = computed(() => geometry.value.visible(top.value - 120, top.value + pageHeight.value + 120))

  function scrolled() {
    if (page.value) top.value = page.value.scrollTop
  }

  function scrollTo(y: number) {
    if (!page.value) return
    page.value.scrollTop = y
    top.value = page.value.scrollTop
  }

  // While it plays the page goes with the playhead; while it stands, the playhead is kept in sight.
  watch(
    () => player.timeMs,
    (ms) => {
      const y = geometry.value.y(ms)
      if (player.playing) {
        if (!player.following || scrolling.value === 'still') return
        const beyond = y > top.value + pageHeight.value - 24 || y < top.value
        if (scrolling.value === 'follow') scrollTo(y - pageHeight.value * PLAYHEAD_AT)
        else if (beyond) scrollTo(y - TURNED_TO)
        return
      }
      if (y < top.value + 8 || y > top.value + pageHeight.value - 24) scrollTo(y - pageHeight.value * PLAYHEAD_AT)
    },
  )

  watch(
    () => selection.currentId,
    (id) => {
      const index = selection.currentIndex
      if (!id || index < 0 || player.playing) return
      const { top: cardTop, height } = geometry.value.box(index)
      const shown = Math.min(height, 80)
      if (cardTop < top.value + 4) scrollTo(cardTop - 60)
      else if (cardTop + shown > top.value + pageHeight.value - 20) scrollTo(cardTop - pageHeight.value * PLAYHEAD_AT)
    },
    { flush: 'post' },
  )

  function showTime(ms: number) {
    scrollTo(geometry.value.y(ms) - pageHeight.value * PLAYHEAD_AT)
  }

  /** What stays in place while the scale changes: the selected caption or the playhead, where they are in sight. */
  function anchor(): { ms: number; y: number } {
    const inSight = (ms: number) => {
      const y = geometry.value.y(ms) - top.value
      return y >= 0 && y <= pageHeight.value ? { ms, y } : null
    }
    const chosen = selection.current && inSight(selection.current.in_ms)
    const middle = pageHeight.value * PLAYHEAD_AT
    return chosen || inSight(player.timeMs) || { ms: geometry.value.ms(top.value + middle), y: middle }
  }

  /** What stays where it is until a change of scale is drawn; presses that come sooner keep to it too. */
  let kept: { ms: number; y: number } | null = null

  /** Another scale; what is worked on stays where it is, or what is at a place of the page. */
  function zoom(direction: 1 | -1, atY?: number) {
    kept ??= atY === undefined ? anchor() : { ms: geometry.value.ms(top.value + atY), y: atY }
    const now = SCALES.findIndex((candidate) => candidate >= scale.value)
    scale.value = SCALES[Math.min(Math.max(now + direction, 0), SCALES.length - 1)]!
    void nextTick(() => {
      if (!kept) return
      scrollTo(geometry.value.y(kept.ms) - kept.y)
      kept = null
    })
  }

  function wheeled(event: WheelEvent) {
    if (event.ctrlKey) {
      event.preventDefault()
      const rect = page.value!.getBoundingClientRect()
      zoom(event.deltaY < 0 ? 1 : -1, event.clientY - rect.top)
    } else if (player.playing) {
      player.following = false
    }
  }

  function changeScrolling() {
    scrolling.value = following(SCROLLINGS, scrolling.value)
  }

  return { geometry, rows, range, top, pageWidth, pageHeight, scrolling, scrolled, wheeled, showTime, zoom, changeScrolling }
}
