/** The commands that name a speaker, in the order of the speakers. */
import type { CommandId } from '@/kit/commands/catalogue'

export const SPEAKER_KEYS: readonly CommandId[] = [
  'speaker-1', 'speaker-2', 'speaker-3', 'speaker-4', 'speaker-5', 'speaker-6', 'speaker-7', 'speaker-8', 'speaker-9',
]
