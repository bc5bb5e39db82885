/** How far all that was done is stored: of what is least saved. */
import { computed } from 'vue'

import { useTracks } from '@/session/tracksStore'
import { useTranslation } from '@/session/translationStore'
import { useVersions } from '@/session/versionsStore'
import { useShort } from '@/stages/style/short/shortStore'
import { useTranscript } from '@/stages/transcribe/transcript/transcriptStore'
import { useStyles } from '@/styling/stylesStore'

export function useSaving() {
  const sources = [useTracks(), useTranscript(), useStyles(), useVersions(), useTranslation(), useShort()]
  return computed(() => {
    const states = sources.map(({ saving }) => saving)
    return states.find((state) => state === 'waiting') ?? states.find((state) => state === 'saving') ?? 'saved'
  })
}
