/** Drafts by an engine: which there are, how far one is, and how another is asked for. */
import { useStorage } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import { answered, client, named, type Schemas } from '@/api/client'
import { keysWaitFor, useCommands } from '@/kit/commands/commands'
import { useSelection } from '@/score/selectionStore'
import { textOf } from '@/session/captions'
import { useProject } from '@/session/projectStore'
import { newId, useTrack, useTracks } from '@/session/tracksStore'
import { useTranslation } from '@/session/translationStore'

/** @param onTarget whether the translation is worked on */
export function useDrafts(onTarget: () => boolean) {
  const { t } = useI18n()
  const project = useProject()
  const track = useTrack()
  const tracks = useTracks()
  const selection = useSelection()
  const translation = useTranslation()

  const engines = shallowRef<Schemas['TranslatorView'][]>([])
  const chosen = useStorage('dunlin.draft-engine', 'memory')
  const problem = ref('')
  const languagesOfPair = computed(() => {
    const of = (id: string | null | undefined) => project.project?.tracks.find((info) => info.id === id)?.language
    return translation.pair?.source ? `${translation.pair.target} ${of(translation.pair.source)} ${of(translation.pair.target)}` : ''
  })
  watch(
    languagesOfPair,
    async (now) => {
      const track_id = translation.pair?.target
      const found = now && track_id ? await answered(client.GET('/api/tracks/{track_id}/translators', { params: { path: { track_id } } })).catch(() => []) : []
      if (languagesOfPair.value === now) engines.value = found
    },
    { immediate: true },
  )
  const working = computed(() => engines.value.filter(({ fault }) => !fault))
  const engine = computed({
    get: () => working.value.find(({ name }) => name === chosen.value)?.name ?? working.value[0]?.name ?? 'memory',
    set: (name) => (chosen.value = name),
  })

  const job = computed(() => {
    const latest = project.latest('draft')
    return latest?.parameters.track_id === translation.pair?.target ? latest : undefined
  })
  const active = computed(() => job.value?.state === 'waiting' || job.value?.state === 'running')

  async function ask(captions: string[] | null, anew: boolean) {
    problem.value = ''
    const params = { path: { track_id: translation.pair!.target } }
    const body = { engine: engine.value, captions, anew }
    try {
      // What was just written counts as written.
      await keysWaitFor(Promise.all([tracks.settled(), translation.settled()]))
      await project.askFor(answered(client.POST('/api/tracks/{track_id}/translation/drafts', { params, ...named(newId()), body })))
    } catch (refused) {
      problem.value = (refused as Error).message
      track.refusal = problem.value
    }
  }
  const empty = () => ask(null, false)
  /** One for the caption that is worked on, or another in the place of a draft that nobody has written in. */
  function here() {
    const caption = selection.current!
    const text = textOf(caption)
    if (text.trim() && text !== translation.linkOf(caption.id).drafted) {
      track.refusal = t('translate.drafts.written')
      return
    }
    void ask([caption.id], true)
  }

  useCommands([
    { id: 'draft-here', run: here, enabled: () => onTarget() && Boolean(translation.pair?.source) && selection.current !== undefined, why: 'now' },
    { id: 'draft-empty', run: () => void empty(), enabled: () => Boolean(translation.pair?.source) && !active.value, why: 'now' },
  ])

  return { engines, engine, job, active, problem, empty, here }
}
