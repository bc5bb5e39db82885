/** How far all that was done is stored: of what is least saved. */
import { computed } from 'vue'

import { savingOfAll } from '@/session/storedEdits'
import { useShort } from '@/stages/style/short/shortStore'
import { useTranscript } from '@/stages/transcribe/transcript/transcriptStore'

export function useSaving() {
  const [transcript, short] = [useTranscript(), useShort()]
  return computed(() => {
    const states = [savingOfAll.value, transcript.saving, short.saving]
    return states.find((state) => state === 'waiting') ?? states.find((state) => state === 'saving') ?? 'saved'
  })
}
