/** Who works here: names by the ids under which the log knows people, one's own among them. */
import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'

import { answered, client } from '@/api/client'
import { person } from '@/session/identity'

export const usePeople = defineStore('people', () => {
  const names = shallowRef(new Map<string, string>())
  const ownName = computed(() => names.value.get(person) ?? '')

  async function load() {
    names.value = new Map((await answered(client.GET('/api/people'))).map(({ id, name }) => [id, name]))
  }

  /** Says how one is called; nothing takes the name away. */
  async function nameMyself(name: string) {
    await answered(client.PUT('/api/people/me', { body: { name } }))
    await load()
  }

  return { names, ownName, load, nameMyself }
})
