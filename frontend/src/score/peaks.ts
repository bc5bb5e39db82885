/** The sound's outline, in slices. */
import { shallowRef } from 'vue'

import { answered, client, type Schemas } from '@/api/client'
import { useSlices } from '@/score/slices'

const SLICE = 4096
/** Slices kept: far more than a screen shows, and bounded whatever the film's length. */
const MOST = 96

/** Low and high of one stretch, from -1 to 1. */
export type Peak = readonly [number, number]

export function usePeaks() {
  const info = shallowRef<Schemas['PeaksView'] | null>(null)
  const slices = useSlices(MOST, (bytes) => new Int8Array(bytes))
  let filmId = ''
  let recent: { level: number; first: number; data: Int8Array | null } = { level: 0, first: 0, data: null }

  async function open(id: string) {
    if (filmId !== id) slices.clear()
    recent.data = null
    filmId = id
    info.value = null
    try {
      info.value = await answered(
        client.GET('/api/films/{film_id}/peaks', { params: { path: { film_id: id } } }),
      )
    } catch {
      // Not drawn yet, or no sound: there is nothing to show.
    }
  }

  /** The coarsest level that still has a pair for every pixel. */
  function levelFor(msPerPixel: number): number {
    const pairs = info.value?.pair_ms ?? []
    let level = 0
    while (level + 1 < pairs.length && pairs[level + 1]! <= msPerPixel) level++
    return level
  }

  /** Least and greatest sample from one time to another; null while they are fetched. */
  function between(level: number, fromMs: number, toMs: number): Peak | null {
    const pairMs = info.value!.pair_ms[level]!
    const count = info.value!.counts[level]!
    const first = Math.floor(fromMs / pairMs)
    const last = Math.min(Math.max(Math.ceil(toMs / pairMs), first + 1), count)
    let low = 0
    let high = 0
    for (let pair = first; pair < last; pair++) {
      const data = sliceWith(level, pair)
      if (!data) return null
      const at = (pair % SLICE) * 2
      if (data[at]! < low) low = data[at]!
      if (data[at + 1]! > high) high = data[at + 1]!
    }
    return [low / 128, high / 128]
  }

  /** Neighbours are asked for one after the other, thousands for one drawing, and mostly share a slice. */
  function sliceWith(level: number, pair: number): Int8Array | null {
    const first = Math.floor(pair / SLICE) * SLICE
    if (!recent.data || recent.level !== level || recent.first !== first) {
      const data = slices.at(`/api/films/${filmId}/peaks/${level}?first=${first}&count=${SLICE}`)
      recent = { level, first, data }
    }
    return recent.data
  }

  return { info, arrived: slices.arrived, open, levelFor, between }
}

export type Peaks = ReturnType<typeof usePeaks>
