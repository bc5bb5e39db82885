/** Sizes that a film is written in: its own, and smaller ones that players take. */
import { computed, type MaybeRefOrGetter, toValue } from 'vue'
import { useI18n } from 'vue-i18n'

import { useProject } from '@/session/projectStore'
import { useVersions } from '@/session/versionsStore'

/** By the longer or shorter side; of a version's window larger ones too, as it is a part of the film. */
const LINES = [1920, 1350, 1080, 720, 480]
const WIDEST = 1920

/** Lines of a picture and its size in words; null is the picture's own. `version` is the id of the one that is drawn. */
export function usePictureSizes(version: MaybeRefOrGetter<string | null | undefined>) {
  const { t } = useI18n()
  const project = useProject()
  const versions = useVersions()
  return computed(() => {
    const film = project.project?.film
    const chosen = versions.versions.find(({ id }) => id === toValue(version))
    const { width, height: own } = chosen?.picture ?? { width: film?.width || 1280, height: film?.height || 720 }
    const across = (lines: number) => Math.round((width * lines) / own / 2) * 2
    return [
      { value: null, title: t('deliver.size.own', { size: `${width} × ${own}` }) },
      ...LINES.filter((lines) => lines !== own && (chosen ? across(lines) <= WIDEST : lines < own)).map((lines) => ({ value: lines, title: t('deliver.size.lines', { size: `${across(lines)} × ${lines}` }) })),
    ]
  })
}
