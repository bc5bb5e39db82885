/** Says that a film or a packing list is done, to who looks elsewhere meanwhile: in the title of the window and, where that is
 *  allowed, by the browser. */
import { computed, onScopeDispose, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import { useProject } from '@/session/projectStore'

/** Kinds of jobs that take so long that nobody waits before them. */
const LONG = ['burn', 'tracks-inside', 'pack']

const permission = ref(typeof Notification === 'undefined' ? 'denied' : Notification.permission)

/** Whether the browser may be asked to say so, and how it is asked. */
export function useNotice() {
  return {
    get canBeAsked() {
      return permission.value === 'default'
    },
    ask: async () => {
      permission.value = await Notification.requestPermission()
    },
  }
}

/** Keeps the title of the window, for as long as a project is open. */
export function useTitle() {
  const { t } = useI18n()
  const project = useProject()
  /** What came to its end while nobody looked. */
  const ended = ref('')
  const long = computed(() => project.jobs.filter(({ kind }) => LONG.includes(kind)))
  const running = computed(() => long.value.find(({ state }) => state === 'running'))
  const title = computed(() => project.project?.title ?? 'Dunlin')

  watch(
    () => long.value.map(({ id, state }) => ({ id, state })),
    (now, before) => {
      const was = new Map((before ?? []).map(({ id, state }) => [id, state]))
      for (const { id, state } of now) {
        const job = long.value.find((one) => one.id === id)!
        if ((state === 'done' || state === 'failed') && ['running', 'waiting'].includes(was.get(id) ?? '')) tell(t(`job.kind.${job.kind}`), t(`job.${state}`))
      }
    },
  )
  function tell(what: string, how: string) {
    if (document.hasFocus() && document.visibilityState === 'visible') return
    ended.value = `${what}: ${how}`
    if (permission.value === 'granted') new Notification(title.value, { body: ended.value, tag: 'dunlin' })
  }
  const seen = () => (ended.value = '')
  window.addEventListener('focus', seen)
  onScopeDispose(() => window.removeEventListener('focus', seen))
  watch(
    [title, ended, () => Math.round((running.value?.progress ?? 0) * 100), () => running.value?.id],
    () => {
      const before = ended.value ? `✓ ${ended.value} · ` : running.value ? `${Math.round(running.value.progress * 100)} % · ` : ''
      document.title = `${before}${title.value} · Dunlin`
    },
    { immediate: true },
  )
}
