/** Which colour of a look is taken from the picture, and where on it one looks for it. */
import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'

import type { Point } from '@/stages/style/frames'

export type Picked = 'colour' | 'outline_colour' | 'shadow_colour' | 'background'

export const usePicking = defineStore('picking', () => {
  const property = ref<Picked>('colour')
  /** The point of the picture that is looked at; null while no colour is looked for. */
  const at = shallowRef<Point | null>(null)
  return { property, at }
})
