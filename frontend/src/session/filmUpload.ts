/** A film on its way to the server: how far it is, and why it did not get there. */
import { useEventListener } from '@vueuse/core'
import { ref } from 'vue'

import type { ProjectView } from '@/api/client'
import { type Upload, uploadFilm } from '@/api/upload'
import { i18n } from '@/kit/i18n'

export function useFilmUpload() {
  const sending = ref<{ name: string; size: number; part: number } | null>(null)
  const problem = ref('')
  let upload: Upload | null = null

  // Closing the tab would end it.
  useEventListener(window, 'beforeunload', (event) => {
    if (sending.value) event.preventDefault()
  })

  /** The project that shows the film; null when it was refused, which `problem` tells, or stopped. */
  async function send(address: string, file: File, query: Record<string, string> = {}): Promise<ProjectView | null> {
    if (sending.value) return null
    problem.value = ''
    const told = { name: file.name, size: file.size }
    sending.value = { ...told, part: 0 }
    upload = uploadFilm(address, file, query, (part) => (sending.value = { ...told, part }))
    try {
      return await upload.done
    } catch (error) {
      if (!(error instanceof DOMException)) {
        const reason = (error as Error).message || i18n.global.t('projects.brokenOff')
        problem.value = i18n.global.t('projects.notTaken', { name: file.name, reason })
      }
      return null
    } finally {
      sending.value = null
      upload = null
    }
  }

  return { sending, problem, send, stop: () => upload?.stop() }
}
