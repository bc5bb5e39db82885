/** A job that hears the film's sound by the words of the transcript. */
import { computed, ref } from 'vue'

import type { JobView } from '@/api/client'
import { useProject } from '@/session/projectStore'
import { useTranscript } from '@/stages/transcribe/transcript/transcriptStore'

/** The newest job of a kind, whether it is under way, and how to ask for another once all that was written is stored. */
export function useTranscriptJob(kind: JobView['kind'], request: () => Promise<JobView>) {
  const project = useProject()
  const transcript = useTranscript()
  const problem = ref('')
  const job = computed(() => project.latest(kind))
  const active = computed(() => job.value?.state === 'waiting' || job.value?.state === 'running')

  async function ask() {
    problem.value = ''
    await transcript.send()
    try {
      await project.askFor(request())
    } catch (refused) {
      problem.value = (refused as Error).message
    }
  }

  return { job, active, problem, ask }
}
