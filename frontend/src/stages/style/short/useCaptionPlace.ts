/** How high captions stand: all of them, one, or all from one on; in the track, or in the version that is shown. */
import { useStorage } from '@vueuse/core'
import { computed } from 'vue'

import { goingOn } from '@/session/goingOn'
import { useTrack } from '@/session/tracksStore'
import { type Apart, useVersions } from '@/session/versionsStore'
import { useShort } from '@/stages/style/short/shortStore'
import { useWordCursor } from '@/stages/style/short/wordCursor'

export const REACHES = ['all', 'one', 'on'] as const
export type Reach = (typeof REACHES)[number]
type Placement = NonNullable<Apart['placement']>

export function useCaptionPlace() {
  const track = useTrack()
  const versions = useVersions()
  const short = useShort()
  const cursor = useWordCursor()
  /** Which captions a height is of. */
  const reach = useStorage<Reach>('dunlin.short-reach', 'all')

  const caption = computed(() => track.byId.get(cursor.word?.caption ?? ''))
  const apart = computed(() => versions.shown?.apart ?? {})
  const isHidden = computed(() => Boolean(caption.value && apart.value[caption.value.id]?.hidden))
  const styleHeight = computed(() => short.current?.style.y ?? 0.66)
  const height = computed(() => {
    const own = caption.value && (apart.value[caption.value.id]?.placement ?? caption.value.placement)
    return reach.value === 'all' ? styleHeight.value : (own?.y ?? styleHeight.value)
  })
  const reached = () => {
    const all = cursor.lines.filter(({ locked }) => !locked)
    const from = caption.value?.in_ms ?? 0
    if (reach.value === 'one') return all.filter(({ id }) => id === caption.value?.id)
    return reach.value === 'on' ? all.filter(({ in_ms }) => in_ms >= from) : all
  }

  const gestureOf = goingOn()

  /** Puts the captions so high, in parts of the picture from above; null where the look says it. */
  function setHeight(y: number | null) {
    const at = y === null ? null : Math.round(Math.min(Math.max(y, 0), 1) * 1000) / 1000
    const version = versions.shown
    const gesture = gestureOf(`${version?.id} ${reach.value} ${reach.value === 'all' ? '' : caption.value?.id}`)
    if (reach.value === 'all' && !version && at !== null) {
      const look = short.current!
      return void short.apply({ ...look, style: { ...look.style, y: at, x: look.style.x ?? 0.5, anchor: 'middle' } }, gesture)
    }
    const placed = (own: Placement | null | undefined): Placement | null => (at === null ? null : { anchor: 'middle', align: 'center', ...own, x: own?.x ?? short.current?.style.x ?? 0.5, y: at })
    if (version) {
      const differing = reached().map(({ id }) => [id, { hidden: false, ...version.apart[id], placement: placed(version.apart[id]?.placement) }] as const)
      return void versions.setApart(version.id, Object.fromEntries(differing), gesture)
    }
    const changes = reached().map(({ id, placement }) => ({ caption: id, placement: placed(placement) }))
    if (changes.length) track.edit({ kind: 'change-captions', changes: changes as never }, gesture)
  }

  /** Leaves the caption out of the version that is shown, or not any more. */
  function toggleHidden() {
    const version = versions.shown
    if (!version || !caption.value) return
    const { id } = caption.value
    void versions.setApart(version.id, { [id]: { ...version.apart[id], hidden: !version.apart[id]?.hidden } })
  }
  const nextReach = () => (reach.value = REACHES[(REACHES.indexOf(reach.value) + 1) % REACHES.length]!)

  return { reach, nextReach, caption, height, isHidden, setHeight, toggleHidden }
}
