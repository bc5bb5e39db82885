/** What is done with whole styles: given to captions or speakers, made of a caption, passed on. */
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'

import { i18n } from '@/kit/i18n'
import type { Caption } from '@/session/captions'
import { newId } from '@/session/identity'
import type { Change } from '@/session/merging'
import { useTrack } from '@/session/tracksStore'
import { useSelection } from '@/score/selectionStore'
import { useLooks } from '@/stages/style/looksStore'
import { PLACE, type Property } from '@/stages/style/properties'
import { changeOf } from '@/stages/style/setting'
import { type Look, lookWith, type Values } from '@/styling/looks'
import { useStyles } from '@/styling/stylesStore'

export type Receivers = 'style' | 'later' | 'selected'

export const useShelf = defineStore('shelf', () => {
  const track = useTrack()
  const selection = useSelection()
  const styles = useStyles()
  const looks = useLooks()

  /** The style that was pressed last, where that is not the current caption's. */
  const pressed = ref<string | null>(null)
  const at = computed(() => (pressed.value && styles.byName.has(pressed.value) ? pressed.value : looks.styleName))
  const names = computed(() => [...styles.styles, ...styles.offered].map(({ name }) => name))

  /** A style of the project, which is copied into it first where it is only kept for all. */
  async function needs(name: string, gesture: string) {
    const kept = styles.offered.find((style) => style.name === name)
    if (kept) await styles.put(name, kept.look, gesture)
  }

  /** Gives a style to where changes go: to the speaker of the current caption, or to what is selected. */
  async function give(name: string) {
    pressed.value = name
    const gesture = newId()
    const [speaker, captions] = [selection.current?.speaker, selection.selected]
    if (looks.destination === 'speaker' && speaker) {
      await needs(name, gesture)
      return styles.giveSpeaker(speaker, name, gesture)
    }
    if (!captions.length) return
    await needs(name, gesture)
    track.edit({ kind: 'change-captions', changes: captions.map(({ id }) => ({ caption: id, style: name })) }, gesture)
  }

  /** Gives the next style of the list, or the one before. */
  function giveNext(direction: 1 | -1) {
    const count = names.value.length
    if (!count || !selection.selected.length) return
    const now = names.value.indexOf(looks.styleName ?? '')
    void give(names.value[now < 0 ? (direction > 0 ? 0 : count - 1) : (now + direction + count) % count]!)
  }

  /** All that a caption says of its look itself. */
  function saidBy(caption: Caption): Values {
    const { placement, look, case: letters } = caption
    const place = placement ? Object.fromEntries(PLACE.map((name) => [name, placement[name]])) : {}
    return { ...look, ...place, ...(letters ? { case: letters } : {}) }
  }

  /** Makes a style that looks as the current caption does, and sets the caption in it. Gives its name. */
  async function makeNew(): Promise<string | null> {
    const caption = selection.current
    if (!caption) return null
    const gesture = newId()
    const name = styles.freeName(i18n.global.t('style.newName'))
    const before = looks.styleName ? styles.byName.get(looks.styleName)?.look : null
    pressed.value = name
    await styles.put(name, (lookWith(before, saidBy(caption)) ?? {}) as Look, gesture)
    track.edit({ kind: 'change-captions', changes: [{ caption: caption.id, style: name, look: null, placement: null, case: null }] }, gesture)
    return name
  }

  async function copy(name: string) {
    const look = styles.byName.get(name)?.look
    if (!look) return
    pressed.value = styles.freeName(i18n.global.t('style.copyOf', { style: name }))
    await styles.put(pressed.value, look)
  }

  /** Keeps a style for all projects as it is now, or keeps it no longer. */
  async function keep(name: string) {
    const style = styles.byName.get(name)
    if (style && (!style.kept || style.is_older)) await styles.keep(name, style.look)
    else await styles.letGo(name)
  }

  /** Who gets what the current caption says, when it is passed on. */
  function receivers(to: Receivers): Caption[] {
    const from = selection.current
    if (!from) return []
    const others = to === 'selected' ? selection.selected : to === 'later' ? track.captions.slice(selection.currentIndex + 1) : track.captions.filter(sameStyle(from))
    return others.filter(({ id }) => id !== from.id)
  }
  const sameStyle = (from: Caption) => (one: Caption) => (one.style ?? styles.usual) === (from.style ?? styles.usual)

  /** Has other captions say what the current one says of some properties; what it leaves to its style, they do too. */
  function passOn(properties: readonly Property[], to: Receivers) {
    const from = selection.current
    const now = looks.current?.look
    if (!from || !now) return
    const said = saidBy(from)
    const values = Object.fromEntries(properties.map((name) => [name, said[name] ?? null])) as Values
    const changes = receivers(to).map((caption): Change => ({ caption: caption.id, ...changeOf(caption, now, values) }))
    if (changes.length) track.edit({ kind: 'change-captions', changes }, newId())
  }

  return { pressed, at, names, give, giveNext, makeNew, copy, keep, saidBy, receivers, passOn }
})
