/** What is looked for in captions, by the captions it stands in, for whoever shows them. */
import { defineStore } from 'pinia'
import { shallowRef } from 'vue'

import type { Hit } from '@/session/spans'

export const useFound = defineStore('found', () => {
  const hits = shallowRef<ReadonlyMap<string, readonly Hit[]>>(new Map())
  return { hits }
})
