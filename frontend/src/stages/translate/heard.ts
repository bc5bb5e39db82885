/** What was recognised, where there are no captions to read it in. */
import { computed } from 'vue'

import type { Word } from '@/api/client'
import { firstIndex } from '@/kit/ordered'
import { useProject } from '@/session/projectStore'
import type { Caption } from '@/session/captions'

/** A pause this long begins another passage. */
const PAUSE_MS = 700
const MOST_WORDS = 16
const ENDS = /[.!?。！？…]["'”’»)]?$/

/** Words with a space between them, as they were heard between two times. */
export function heardBetween(words: readonly Word[], fromMs: number, toMs: number): string {
  const found: string[] = []
  for (let i = firstIndex(words, ({ end_ms }) => end_ms, fromMs + 1); i < words.length && words[i]!.start_ms < toMs; i++) found.push(words[i]!.text)
  return found.join(' ')
}

/** Words in passages: up to a pause, the end of a sentence, or so many that a card is full. */
export function passages(words: readonly Word[]): { id: string; in_ms: number; out_ms: number; text: string }[] {
  const found: { id: string; in_ms: number; out_ms: number; text: string }[] = []
  let count = 0
  for (const { text, start_ms, end_ms } of words) {
    const last = found.at(-1)
    if (last && start_ms - last.out_ms < PAUSE_MS && count < MOST_WORDS && !ENDS.test(last.text)) {
      last.text += ` ${text}`
      last.out_ms = end_ms
      count++
    } else {
      found.push({ id: `heard-${found.length}`, in_ms: start_ms, out_ms: end_ms, text })
      count = 1
    }
  }
  return found
}

/** The passages that were heard, in the form of captions that are only read. */
export function useHeard() {
  const project = useProject()
  return computed(() => passages(project.words).map(({ text, ...one }) => ({ ...one, spans: [{ text }], shown: null, direction: 'ltr' }) as unknown as Caption))
}
