/** A third language read beside the two: what was said in it at the same time. */
import { useStorage } from '@vueuse/core'
import { computed, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import { useCommands } from '@/kit/commands/commands'
import { languageName } from '@/kit/i18n'
import { following } from '@/kit/ordered'
import { type Caption, firstFrom } from '@/session/captions'
import { useProject } from '@/session/projectStore'
import { useTracks } from '@/session/tracksStore'
import { useTranslation } from '@/session/translationStore'

/** Captions that share half of the time of either, or more, with another one. */
export function atTheSameTime({ in_ms, out_ms }: Pick<Caption, 'in_ms' | 'out_ms'>, captions: readonly Caption[], longest: number): Caption[] {
  const near = captions.slice(firstFrom(captions, in_ms - longest), firstFrom(captions, out_ms))
  return near.filter((one) => {
    const shared = Math.min(one.out_ms, out_ms) - Math.max(one.in_ms, in_ms)
    return shared > 0 && 2 * shared >= Math.min(one.out_ms - one.in_ms, out_ms - in_ms)
  })
}

export function usePivot() {
  const { t } = useI18n()
  const project = useProject()
  const tracks = useTracks()
  const translation = useTranslation()
  const chosen = useStorage<Record<string, string>>('dunlin.pivots', {})

  const offered = computed(() => {
    const { source, target } = translation.pair ?? {}
    return (project.project?.tracks ?? []).filter(({ id }) => id !== source && id !== target)
  })
  const options = computed(() => [
    { value: '', title: t('translate.noPivot') },
    ...offered.value.map(({ id, language, name }) => ({ value: id, title: [languageName(language), name].filter(Boolean).join(', ') })),
  ])
  const pivot = computed({
    get: () => {
      const id = chosen.value[project.project?.id ?? '']
      return offered.value.some((info) => info.id === id) ? id! : ''
    },
    set: (id) => (chosen.value = { ...chosen.value, [project.project?.id ?? '']: id }),
  })
  watch(pivot, (id) => id && void tracks.open(id).catch(() => undefined), { immediate: true })

  const info = computed(() => offered.value.find(({ id }) => id === pivot.value))
  const captions = computed(() => (pivot.value && tracks.opened.get(pivot.value)?.captions.value) || [])
  const longest = computed(() => captions.value.reduce((most, { in_ms, out_ms }) => Math.max(most, out_ms - in_ms), 0))
  const saidWith = (caption: Caption) => atTheSameTime(caption, captions.value, longest.value)

  useCommands([
    {
      id: 'pair-pivot', enabled: () => offered.value.length > 0, why: 'now',
      run: () => (pivot.value = following(options.value.map(({ value }) => value), pivot.value)),
    },
  ])

  return { options, pivot, info, saidWith }
}
