/** The look that the track is in, the looks there are, and what is done to its words. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'

import { answered, client, named, type Schemas } from '@/api/client'
import { oneAtATime } from '@/kit/oneAtATime'
import { usePlayer } from '@/picture/playerStore'
import type { Saving } from '@/session/editQueue'
import { useHistory } from '@/session/historyStore'
import { useProject } from '@/session/projectStore'
import { takenIn } from '@/session/takingIn'
import { newId, useTrack } from '@/session/tracksStore'
import { useVersions } from '@/session/versionsStore'
import { useStyles } from '@/styling/stylesStore'

export type ShortLook = Schemas['ShortLook']
export type Deed = Schemas['DeedRequest']['deed']
type Known = Schemas['Known']
type Wanted = { look: ShortLook; seen: Schemas['Seen']; gesture: string }

export const useShort = defineStore('short', () => {
  const project = useProject()
  const track = useTrack()
  const styles = useStyles()
  const player = usePlayer()
  const versions = useVersions()
  const looks = shallowRef<readonly Schemas['ShortLookView'][]>([])
  /** How the track is cut, as it was last read. */
  const state = shallowRef<Schemas['ShortView'] | null>(null)
  const problem = ref('')
  const busy = ref(false)
  /** What was asked for last and is not there yet: what the dials show. */
  const asked = shallowRef<Wanted | null>(null)

  /** The look of the track, with what was done to its style by hand; of one that is in none, undefined. */
  const current = computed<ShortLook | undefined>(() => {
    if (asked.value) return asked.value.look
    const cut = state.value
    if (!cut?.look) return undefined
    const style = styles.byName.get(cut.look)?.look
    return style && { name: cut.look, style, rhythm: cut.rhythm, weighing: cut.weighing, fit: cut.fit }
  })
  const seen = computed(() => asked.value?.seen ?? state.value?.seen)

  async function readLooks() {
    looks.value = await answered(client.GET('/api/looks'))
  }

  let reads = 0
  let newest: Promise<void> = Promise.resolve()
  /** Reads how the track is cut; ends when what was asked for last is there, whoever asked. */
  async function read() {
    newest = readOnce()
    for (let asked = newest; ; asked = newest) {
      await asked
      if (asked === newest) return
    }
  }
  /** What was asked for before something else was done says what is no longer so. */
  async function readOnce() {
    const track_id = track.id
    if (!track_id) return
    const turn = ++reads
    const query = { near_ms: Math.max(Math.round(player.timeMs), 0) }
    const found = await answered(client.GET('/api/tracks/{track_id}/short', { params: { path: { track_id }, query } }))
    if (turn === reads && track_id === track.id) state.value = found
  }

  /** Sets the track in a look; what is asked for while that goes on takes the place of what waits. */
  function apply(look: ShortLook, gesture = newId(), room = seen.value) {
    asked.value = { look, seen: room ?? state.value!.seen, gesture }
    return applying()
  }
  const applying = oneAtATime(async () => {
    busy.value = true
    try {
      while (asked.value) {
        const wanted = asked.value
        problem.value = ''
        await track.settled()
        const params = { path: { track_id: track.id } }
        const { look, seen: room, gesture } = wanted
        // A style that another window changed since is not written over.
        await styles.settled()
        const styles_revision = state.value?.look === look.name ? styles.seen() : null
        // Fitted into the picture that is shown.
        const body = { base_revision: track.seen(), gesture, look, seen: room, styles_revision, version: versions.shownId }
        await answered(client.POST('/api/tracks/{track_id}/short', { params, ...named(newId()), body }))
        // With the style, what captions are drawn by is another: the track is read whole.
        await Promise.all([track.reload(), styles.read(), project.refresh(), read(), versions.shown && versions.read()])
        if (asked.value === wanted) asked.value = null
      }
    } catch (error) {
      asked.value = null
      problem.value = (error as Error).message
      await Promise.all([styles.read(), read()])
    } finally {
      busy.value = false
    }
  })

  /** Ends when the track is in the look that was asked for last. */
  async function settled() {
    while (asked.value) await applying()
  }
  // Whatever comes after it is done to what the look makes, also where another page is open by then.
  useHistory().writers.add(settled)
  const saving = computed<Saving>(() => (asked.value ? 'saving' : 'saved'))

  /** Does something to a word; true when it was done. */
  async function doTo(caption: string, offset: number, deed: Deed, known?: Known): Promise<boolean> {
    const params = { path: { track_id: track.id } }
    const key = newId()
    const made = () =>
      answered(
        client.POST('/api/tracks/{track_id}/short/words', {
          params, ...named(key), body: { base_revision: track.seen(), gesture: newId(), caption, offset, deed, known },
        }),
      )
    await settled()
    problem.value = ''
    const done = await takenIn(track, made, { busy, problem })
    void read()
    return done
  }

  /** Keeps the look of the track for all projects, under a name. */
  async function keep(name: string, asDefault: boolean) {
    if (!current.value) return
    await answered(client.PUT('/api/looks', { body: { look: { ...current.value, name }, default: asDefault } }))
    await readLooks()
  }
  async function letGo(name: string) {
    await answered(client.DELETE('/api/looks/{name}', { params: { path: { name } } }))
    await readLooks()
  }
  async function takeFile(file: File) {
    problem.value = ''
    try {
      looks.value = await answered(client.POST('/api/look-file', { body: (await file.text()) as never, bodySerializer: (text) => text as never }))
    } catch (error) {
      problem.value = (error as Error).message
    }
  }

  return { looks, state, problem, busy, saving, current, seen, readLooks, read, apply, settled, doTo, keep, letGo, takeFile }
})
