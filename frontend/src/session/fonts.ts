/** The families of fonts that captions can be set in: those that ship, and those that were added for all projects. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'

import { answered, client, fileBody, named, type Schemas } from '@/api/client'
import { knowAdded } from '@/picture/shelf'
import { newId } from '@/session/identity'

export type FontFamily = Schemas['FontView']

export const useFonts = defineStore('fonts', () => {
  const families = shallowRef<readonly FontFamily[]>([])
  /** How often a family came to be of other files: what draws has to forget those it has. */
  const replaced = ref(0)
  const byName = computed(() => new Map(families.value.map((family) => [family.name, family])))

  async function load() {
    const before = byName.value
    families.value = await answered(client.GET('/api/fonts'))
    knowAdded(families.value)
    const isOther = ({ name, files }: FontFamily) => String(before.get(name)?.files ?? files) !== String(files)
    if (families.value.some(isOther)) replaced.value++
  }

  /** Adds the faces of files, one after the other, and gives the families that they are of. */
  async function add(files: Iterable<File>): Promise<string[]> {
    const added: string[] = []
    try {
      for (const file of files) {
        const found = await answered(client.POST('/api/fonts', { ...fileBody(file), ...named(newId()) })).catch((why: Error) => {
          throw new Error(`${file.name}: ${why.message}`)
        })
        added.push(...found.map(({ name }) => name))
      }
    } finally {
      await load()
    }
    return added
  }

  async function remove(family: string) {
    await answered(client.DELETE('/api/fonts/{family}', { params: { path: { family } } }))
    await load()
  }

  return { families, byName, replaced, load, add, remove }
})
