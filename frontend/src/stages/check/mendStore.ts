/** What can be done about each finding: proposed by the server, chosen here, done in one edit. */
import { watchDebounced } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'

import { answered, client, type Finding, type Schemas } from '@/api/client'
import { newId, useTrack } from '@/session/tracksStore'

export type Mend = Schemas['MendView']
export type Rule = Finding['rule']

const keyOf = (place: { rule: string; caption: string }) => `${place.rule} ${place.caption}`

export const useMends = defineStore('mends', () => {
  const track = useTrack()
  const rule = ref<Rule | null>(null)
  /** Mends are looked for only while somebody looks at them. */
  const shown = ref(false)
  const mends = shallowRef<ReadonlyMap<string, Mend>>(new Map())
  const left = ref<ReadonlySet<string>>(new Set())
  const looking = ref(false)

  /** The mend of a finding; undefined while it is still looked for. */
  const of = (finding: Finding) => mends.value.get(keyOf(finding))
  const isChosen = (finding: Finding) => of(finding)?.reason === null && !left.value.has(keyOf(finding))
  const chosen = computed(() => [...mends.value.values()].filter((mend) => mend.reason === null && !left.value.has(keyOf(mend))))

  watchDebounced(() => [track.captions, rule.value, shown.value], look, { debounce: 150 })

  async function look() {
    if (!shown.value || !track.loaded) return
    looking.value = true
    await track.settled()
    const asked = [track.id, rule.value] as const
    const found = await answered(
      client.GET('/api/tracks/{track_id}/mends', {
        params: { path: { track_id: track.id }, query: rule.value ? { rule: rule.value } : {} },
      }),
    ).catch(() => null)
    if (!found || asked[0] !== track.id || asked[1] !== rule.value) return
    mends.value = new Map(found.mends.map((mend) => [keyOf(mend), mend]))
    looking.value = false
  }

  function choose(finding: Finding, on: boolean) {
    const now = new Set(left.value)
    if (on) now.delete(keyOf(finding))
    else now.add(keyOf(finding))
    left.value = now
  }

  /** Mends findings in one edit, and gives how many were mended. */
  async function mend(these: readonly { rule: Rule; caption: string }[]): Promise<number> {
    await track.settled()
    const done = await answered(
      client.POST('/api/tracks/{track_id}/mends', {
        params: { path: { track_id: track.id } },
        body: { gesture: newId(), base_revision: track.seen(), chosen: these.map(({ rule, caption }) => ({ rule, caption })), only: [] },
      }),
    )
    if (done.edit) track.accept(done.edit)
    return done.mended
  }

  async function waive(finding: Finding, reason: string) {
    await track.settled()
    track.accept(
      await answered(
        client.POST('/api/tracks/{track_id}/waivers', {
          params: { path: { track_id: track.id } },
          body: { rule: finding.rule, caption: finding.caption, reason },
        }),
      ),
    )
  }

  async function takeBack(finding: Finding) {
    track.accept(
      await answered(
        client.POST('/api/tracks/{track_id}/waivers/take-back', {
          params: { path: { track_id: track.id } },
          body: { rule: finding.rule, caption: finding.caption },
        }),
      ),
    )
  }

  return { rule, shown, looking, chosen, of, isChosen, choose, mend, waive, takeBack }
})
