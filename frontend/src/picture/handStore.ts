/** What is drawn in the place of captions as they are stored, while something holds them: a hand, or a choice not made yet. */
import { defineStore } from 'pinia'
import { shallowRef } from 'vue'

export interface Held {
  /** Lines of the render script by the captions' ids. */
  lines: ReadonlyMap<string, string>
  /** Its head, where the styles are others too. */
  head: string | null
}

export const useHand = defineStore('hand', () => {
  const held = shallowRef<Held | null>(null)
  return { held }
})
