/** What would make room for the words of the caption that is written, as the server offers it. */
import { watchDebounced } from '@vueuse/core'
import { computed, shallowRef, watch } from 'vue'

import { answered, client, type Operation, type Schemas } from '@/api/client'
import { useCommands } from '@/kit/commands/commands'
import { useSelection } from '@/score/selectionStore'
import { newId, useTrack } from '@/session/tracksStore'

type Room = Schemas['RoomView']
type Offer = Schemas['RoomOfferView']
type Way = Offer['way']

const SOON_MS = 120
const COMMANDS = { longer: 'room-longer', earlier: 'room-earlier', lines: 'room-lines', join: 'room-join' } as const

/** @param wanted whether there is a translation to make room in */
export function useRoom(wanted: () => boolean) {
  const track = useTrack()
  const selection = useSelection()
  const room = shallowRef<Room | null>(null)
  /** All by which the offers are told: what is offered for another state is not taken. */
  const state = computed(() => {
    const caption = selection.current
    if (!caption || !wanted()) return null
    const [before, after] = [track.captions[selection.currentIndex - 1], track.captions[selection.currentIndex + 1]]
    return [track.id, caption.id, caption.in_ms, caption.out_ms, JSON.stringify(caption.spans), before?.out_ms, after?.in_ms, JSON.stringify(after?.spans)].join(' ')
  })
  watch(state, () => (room.value = null), { flush: 'sync' })
  watchDebounced(
    state,
    async (now) => {
      if (!now) return
      const path = { track_id: track.id, caption_id: selection.currentId! }
      await track.settled()
      const answer = await answered(client.GET('/api/tracks/{track_id}/captions/{caption_id}/room', { params: { path } })).catch(() => null)
      if (state.value === now) room.value = answer
    },
    { debounce: SOON_MS, immediate: true },
  )

  const offers = computed(() => room.value?.offers ?? [])
  const offered = (way: Way) => offers.value.find((offer) => offer.way === way)
  function take(offer: Offer | undefined) {
    if (!offer) return
    track.edit(offer.edit as Operation, newId())
  }
  useCommands(
    (Object.keys(COMMANDS) as Way[]).map((way) => ({ id: COMMANDS[way], run: () => take(offered(way)), enabled: () => Boolean(offered(way)), why: 'now' as const })),
  )

  return { room, offers, take, commandOf: (way: Way) => COMMANDS[way] }
}
