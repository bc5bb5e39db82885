/**
 * How the captions in hand look, what says so, and where their letters are; and what a change would make of them, drawn
 * before it is made. Where a change goes is one choice: words, caption, speaker or style.
 */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'

import { answered, client, Refused, type Schemas } from '@/api/client'
import { keysWaitFor } from '@/kit/commands/commands'
import { i18n } from '@/kit/i18n'
import { andOnceMore, oneAtATime } from '@/kit/oneAtATime'
import { useHand } from '@/picture/handStore'
import { usePlayer } from '@/picture/playerStore'
import { type Caption, textOf } from '@/session/captions'
import { useHistory } from '@/session/historyStore'
import { newId } from '@/session/identity'
import type { Change } from '@/session/merging'
import { frameAt, startOfFrame } from '@/kit/time'
import { useProject } from '@/session/projectStore'
import type { Range } from '@/session/spans'
import { useTrack } from '@/session/tracksStore'
import { useSelection } from '@/score/selectionStore'
import { type Property, ofWords } from '@/stages/style/properties'
import { saidAt, valuesAt } from '@/stages/style/moments'
import { changeOf, wordsWith } from '@/stages/style/setting'
import { type Look, lookWith, type Values } from '@/styling/looks'
import { useStyles } from '@/styling/stylesStore'

export type Destination = 'words' | 'caption' | 'speaker' | 'style'
export type LookOf = Schemas['LookView']
type Asked = Schemas['LooksRequest']

/** As many as the server tells of at once. */
const AT_ONCE = 200

export const useLooks = defineStore('looks', () => {
  const track = useTrack()
  const selection = useSelection()
  const player = usePlayer()
  const styles = useStyles()
  const hand = useHand()
  const project = useProject()
  const history = useHistory()

  const view = shallowRef<Schemas['LooksView'] | null>(null)
  /** Whether somebody looks. */
  const shown = ref(false)
  const words = shallowRef<Range | null>(null)
  const wanted = ref<Destination>('caption')
  /** Frames while a hand has them, which are ahead of what was read. */
  const frames = shallowRef<ReadonlyMap<string, LookOf['frame']>>(new Map())
  /** How many gestures are under way or on their way to the server. */
  const busy = ref(0)

  const byId = computed(() => new Map((view.value?.captions ?? []).map((look) => [look.id, look])))
  const current = computed(() => (selection.currentId ? byId.value.get(selection.currentId) : undefined))
  const base = computed(() => view.value?.base ?? 720)
  /** Of the picture that places and frames are on, in its pixels. */
  const size = computed(() => ({ width: view.value?.width ?? 1280, height: view.value?.height ?? 720 }))
  /** Captions that the film shows now. */
  const onPicture = computed(() => track.between(player.timeMs, player.timeMs + 1))
  /** What was set since captions were read, which a key that is pressed again goes on from. */
  const ahead = new Map<string, Values>()
  /** How a caption looks, with what is on its way to the server. */
  const lookOf = (id: string): Look | undefined => {
    const read = byId.value.get(id)?.look
    const set = ahead.get(id)
    if (!read || !set) return read
    return { ...read, ...set, ...saidAt(set.moments, momentOf(track.byId.get(id)!)) } as Look
  }
  const frameOf = (id: string) => frames.value.get(id) ?? byId.value.get(id)?.frame ?? null

  /** Where changes go: to the words only while some are selected. */
  const destination = computed<Destination>(() => {
    if (wanted.value === 'speaker' && !selection.current?.speaker) return 'caption'
    if (words.value && wanted.value !== 'style' && wanted.value !== 'speaker') return 'words'
    return wanted.value === 'words' ? 'caption' : wanted.value
  })
  /** Places go to captions also while words are chosen: words have none of their own. */
  const placeDestination = computed(() => (destination.value === 'words' ? 'caption' : destination.value))
  /** The style that the current caption is set in: its own, or that of captions that name none. */
  const styleName = computed(() => {
    const own = selection.current?.style
    return own && styles.byName.has(own) ? own : styles.usual
  })

  const asked = computed<string[]>(() => {
    const chosen = selection.selected.map(({ id }) => id)
    const first = selection.currentId ? [selection.currentId] : []
    return [...new Set([...first, ...chosen, ...(player.playing ? [] : onPicture.value.map(({ id }) => id))])].slice(0, AT_ONCE)
  })

  const ask = (body: Asked) =>
    answered(client.POST('/api/tracks/{track_id}/looks', { params: { path: { track_id: track.id } }, body }))

  /** The server counts characters, the page half of some. */
  const counted = (offset: number) => [...textOf(selection.current!).slice(0, offset)].length
  const request = (): Asked => ({
    captions: asked.value,
    at_ms: Math.round(player.timeMs),
    words: words.value && selection.current ? { start: counted(words.value.from), end: counted(words.value.to) } : null,
    changes: [],
    styles: {},
  })
  const found = () =>
    ask(request()).catch((why: unknown) => {
      if (!(why instanceof Refused)) throw why
      return null
    })

  /** The moment of a caption's time that the film is at: that of the frame which is seen. */
  const momentOf = (caption: Caption) => {
    const at = startOfFrame(frameAt(player.timeMs, project.rate), project.rate)
    return Math.min(Math.max(at - caption.in_ms, 0), Math.max(caption.out_ms - caption.in_ms, 0))
  }
  /** Whether what is selected looks otherwise from moment to moment, and when it is looked at. */
  const moment = computed(() => (selection.selected.some(({ id }) => byId.value.get(id)?.look.moments?.length) ? player.timeMs : 0))

  /** When it was asked for last how they look. */
  let lookedAt = 0
  /** What lies behind captions is known once the film was looked through for its shots. */
  const shotsState = () => project.latest('shots')?.state
  const read = andOnceMore(async () => {
    if (!shown.value) return
    await track.settled()
    await styles.settled()
    const id = track.id
    const now = await found()
    // What is in hand is ahead of what was read.
    if (now && id === track.id && !busy.value) view.value = now
  })
  watch([() => track.captions, asked, words, () => styles.styles, () => track.scriptHead, shown, shotsState, () => (player.playing ? 0 : moment.value)], () => {
    if (!shown.value || !track.loaded) return
    // Keys that are pressed for a caption just selected, or at a moment just gone to, are for it as it looks there.
    const isElsewhere = selection.currentId && (!current.value || moment.value !== lookedAt)
    lookedAt = moment.value
    if (isElsewhere) void keysWaitFor(read())
    else void read()
  })
  watch(() => selection.currentId, () => (words.value = null))
  watch(view, (now) => now && (history.ofLooks = { canUndo: now.can_undo, canRedo: now.can_redo }))

  /** The captions that are changed: all that are selected. */
  const chosen = () => selection.selected

  /** Values for all captions alike, or for each by how it looks. */
  type Wanted = Values | ((caption: Caption, look: Look) => Values)

  type Plan = ReadonlyMap<string, Values>

  function valuesFor(caption: Caption, values: Wanted): Values {
    if (typeof values !== 'function') return values
    const look = lookOf(caption.id)
    return look ? values(caption, look) : {}
  }

  /** Values as they are for each caption now, whatever is set after that. */
  function resolved(values: Wanted, to: Destination): Plan {
    return new Map(
      chosen().map((caption) => {
        const own = valuesFor(caption, values)
        return [caption.id, to === 'caption' ? valuesAt(lookOf(caption.id)?.moments, own, momentOf(caption)) : own]
      }),
    )
  }

  /** What makes these values so at the place that changes go to. */
  function planned(plan: Plan, to: Destination): Pick<Asked, 'changes' | 'styles'> {
    const nothing = { changes: [], styles: {} }
    const first = selection.current
    if (!first) return nothing
    if (to === 'caption') {
      const changes = chosen().flatMap((caption): Change[] => {
        const now = lookOf(caption.id) ?? current.value?.look
        return now ? [{ caption: caption.id, ...changeOf(caption, now, plan.get(caption.id) ?? {}) }] : []
      })
      return { changes, styles: {} }
    }
    if (to === 'words') {
      if (!words.value) return nothing
      const said = Object.fromEntries(Object.entries(plan.get(first.id) ?? {}).filter(([name]) => ofWords(name as Property)))
      return { changes: [{ caption: first.id, spans: wordsWith(first.spans, words.value, said) }], styles: {} }
    }
    const name = to === 'style' ? styleName.value : styles.styleOfSpeaker(first.speaker)?.name
    const look = lookWith(name ? styles.byName.get(name)?.look : null, plan.get(first.id) ?? {}) ?? {}
    return { changes: [], styles: { [name ?? newName(to)]: look as Look } }
  }

  /** What a style is called that is made because none was there to be changed. */
  const newName = (to: Destination) =>
    styles.freeName(to === 'speaker' ? selection.current!.speaker!.replace(/[,/\\{}]/g, ' ').trim() : i18n.global.t('style.firstName'))

  /** Draws what a change would make; the newest asked for, one after the other. */
  let trial: (() => Pick<Asked, 'changes' | 'styles'>) | null = null
  const tryOnce = oneAtATime(async () => {
    while (trial) {
      const plan = trial()
      trial = null
      const drawn = await ask({ ...request(), ...plan }).catch(() => null)
      if (!drawn || !busy.value) continue
      hand.held = { lines: new Map(drawn.captions.map((look) => [look.id, look.script])), head: drawn.script_head }
      if (!trial) frames.value = new Map(drawn.captions.map((look) => [look.id, look.frame]))
    }
  })
  function tryPlan(plan: () => Plan, to: Destination) {
    trial = () => planned(plan(), to)
    return tryOnce()
  }
  function tryOut(values: Wanted, to = destination.value) {
    return tryPlan(() => resolved(values, to), to)
  }

  /** Draws lines in the place of those of captions that are in hand, beside what is in hand already. */
  function drawLines(lines: Iterable<readonly [string, string]>) {
    hand.held = { lines: new Map([...(hand.held?.lines ?? []), ...lines]), head: hand.held?.head ?? null }
  }
  /** The lines that a hand goes on from. */
  const linesOf = (id: string) => hand.held?.lines.get(id) ?? byId.value.get(id)?.held

  /** Takes hold: from now on what is drawn is what the hand makes, until `letGo`. */
  function hold() {
    busy.value++
  }

  /** Gives the picture back to what is stored, once that holds what was done. */
  async function letGo(stored: Promise<unknown>) {
    await stored.catch(() => undefined)
    // Until what is stored was read, what the hand made is what there is to go on from.
    const [before, now] = busy.value > 1 ? [null, null] : [JSON.stringify(request()), await found()]
    busy.value--
    if (busy.value) return
    trial = null
    ahead.clear()
    if (now) view.value = now
    frames.value = new Map()
    hand.held = null
    if (before !== JSON.stringify(request())) await read()
  }

  /** Makes a change, as one step of undo. */
  function set(wanted: Wanted, gesture = newId(), to = destination.value): Promise<void> {
    return store(resolved(wanted, to), gesture, to)
  }

  async function store(plan: Plan, gesture: string, to: Destination): Promise<void> {
    const { changes, styles: looks } = planned(plan, to)
    for (const [id, values] of plan) ahead.set(id, { ...ahead.get(id), ...values })
    if (changes?.length) {
      track.edit({ kind: 'change-captions', changes }, gesture)
      await track.settled()
      return
    }
    for (const [name, look] of Object.entries(looks ?? {})) {
      const isNew = !styles.byName.has(name)
      const done = [styles.put(name, look, gesture)]
      if (isNew && to === 'style') done.push(styles.makeUsual(name, gesture))
      if (isNew && to === 'speaker') done.push(styles.giveSpeaker(selection.current!.speaker!, name, gesture))
      await Promise.all(done)
    }
  }

  /** Makes a change that was tried out: what was tried is drawn until it is stored. */
  function settle(wanted: Wanted, gesture = newId(), to = destination.value) {
    const plan = resolved(wanted, to)
    hold()
    void tryPlan(() => plan, to)
    return letGo(store(plan, gesture, to))
  }

  return {
    view, shown, words, wanted, destination, styleName, frames, byId, current, base, size, onPicture, placeDestination, lookOf, momentOf, drawLines, linesOf, asked, busy, frameOf,
    read, tryOut, hold, letGo, set, settle,
  }
})
