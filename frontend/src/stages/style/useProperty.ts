/** One property of a look, as its field shows and sets it where changes go. */
import { computed } from 'vue'

import { useSelection } from '@/score/selectionStore'
import { useLooks } from '@/stages/style/looksStore'
import { ofWords, type Property } from '@/stages/style/properties'
import type { Look, Values } from '@/styling/looks'

export type Level = 'words' | 'caption' | 'speaker' | 'style' | 'shipped'

/** The lowest first. */
export const HEIGHT: readonly Level[] = ['shipped', 'style', 'speaker', 'caption', 'words']

export function useProperty<P extends Property>(property: P) {
  const looks = useLooks()
  const selection = useSelection()

  /** How something looks where changes go: what lies above that is not seen. */
  const lookOf = (id: string): Look | undefined => {
    const look = looks.byId.get(id)
    return looks.destination === 'style' ? look?.of_style : looks.destination === 'speaker' ? look?.of_speaker : look?.look
  }
  const value = computed(() => (selection.currentId ? (lookOf(selection.currentId)?.[property] ?? null) : null) as Look[P] | null)
  /** Whether the captions that are selected differ in it. */
  const mixed = computed(
    () => looks.destination === 'caption' && selection.selected.some(({ id }) => looks.byId.has(id) && (lookOf(id)?.[property] ?? null) !== value.value),
  )
  /** What says it, as far as changes go. */
  const level = computed<Level>(() => {
    const said = (looks.current?.levels[property] ?? 'shipped') as Level
    const most = HEIGHT.indexOf(looks.destination)
    return HEIGHT.indexOf(said) > most ? (looks.destination as Level) : said
  })
  /** Whether a level above those that are changed says it too, and is what is seen. */
  const covered = computed(() => HEIGHT.indexOf((looks.current?.levels[property] ?? 'shipped') as Level) > HEIGHT.indexOf(looks.destination))
  const settable = computed(() => Boolean(looks.current) && (looks.destination !== 'words' || ofWords(property)))

  const valuesOf = (next: Look[P] | null): Values => ({ [property]: next }) as Values
  return {
    value, mixed, level, covered, settable,
    set: (next: Look[P] | null) => looks.settle(valuesOf(next)),
    tryOut: (next: Look[P] | null) => looks.tryOut(valuesOf(next)),
  }
}
