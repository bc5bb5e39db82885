/** Which colour of a look is taken from the picture when it is pressed with the picking key held. */
import { defineStore } from 'pinia'
import { ref } from 'vue'

export type Picked = 'colour' | 'outline_colour' | 'shadow_colour' | 'background'

export const usePicking = defineStore('picking', () => {
  const property = ref<Picked>('colour')
  return { property }
})
