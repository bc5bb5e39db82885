/** Pieces of a film's sound, fetched as they come into view and kept while they are near. */
import { ref } from 'vue'

export function useSlices<T>(most: number, made: (bytes: ArrayBuffer) => T) {
  /** Grows when a piece has come, so that what is drawn can be drawn anew. */
  const arrived = ref(0)
  const held = new Map<string, T | null>()

  /** What an address gives; null while it is fetched. */
  function at(url: string): T | null {
    const known = held.get(url)
    if (known !== undefined) return known
    held.set(url, null)
    while (held.size > most) held.delete(held.keys().next().value!)
    void take(url)
    return null
  }

  async function take(url: string) {
    const response = await fetch(url)
    if (!response.ok) {
      held.delete(url)
      return
    }
    held.set(url, made(await response.arrayBuffer()))
    arrived.value++
  }

  return { arrived, at, clear: () => held.clear() }
}
