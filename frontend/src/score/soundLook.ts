/** How the sound is drawn, as this person likes it. */
import { useStorage } from '@vueuse/core'

export const SOUND_PICTURES = ['outline', 'pitches', 'both'] as const

export interface SoundLook {
  picture: (typeof SOUND_PICTURES)[number]
  /** Times what it is: quiet sound can be drawn larger. */
  amplitude: number
  /** From 0 to 1, how much the loud stands out among the pitches. */
  contrast: number
}

export const useSoundLook = () => useStorage<SoundLook>('dunlin.sound', { picture: 'outline', amplitude: 1, contrast: 0.4 })
