/** The report for the client: of which files it tells, and who made it. */
import { useStorage } from '@vueuse/core'

import { usePeople } from '@/session/people'

export function useReport() {
  const people = usePeople()
  /** Formats of each track that were saved here, the newest last. */
  const saved = useStorage<Record<string, string[]>>('dunlin.saved-formats', {})

  function sent(track: string, format: string) {
    const before = saved.value[track] ?? []
    saved.value = { ...saved.value, [track]: [...before.filter((name) => name !== format), format] }
  }

  function reportAddress(track: string): string {
    const query = new URLSearchParams((saved.value[track] ?? ['srt']).map((format) => ['format_name', format]))
    if (people.ownName) query.set('author', people.ownName)
    return `/api/tracks/${track}/report?${query}`
  }

  return { sent, reportAddress }
}
