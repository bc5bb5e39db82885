import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it } from 'vitest'

import { usePlayer } from '@/picture/playerStore'
import { useProject } from '@/session/projectStore'

/** A film that arrives when it is told to; `sought` are the places it was sent to. */
class Film {
  seeking = false
  sought: number[] = []
  volume = 1
  set currentTime(seconds: number) {
    this.sought.push(Math.floor(seconds * 1000))
    this.seeking = true
  }
}

describe('a film that is sent to one place after the other', () => {
  let film: Film
  let player: ReturnType<typeof usePlayer>

  beforeEach(() => {
    setActivePinia(createPinia())
    useProject().project = { film: { duration_ms: 60_000, frame_rate: { numerator: 25, denominator: 1 } } } as never
    player = usePlayer()
    film = new Film()
    player.attach(film as never)
  })

  it('is sent to the last of them once it has come to the first', () => {
    for (const ms of [1000, 2000, 3000]) player.place(ms)
    expect(film.sought).toEqual([1000])
    film.seeking = false
    player.seeked()
    expect(film.sought).toEqual([1000, 3000])
  })

  it('is not sent back when it tells late that it has come to the first', () => {
    player.place(1000)
    player.place(2000)
    film.seeking = false
    player.place(3000)
    player.seeked()
    expect(film.sought).toEqual([1000, 3000])
  })

  it('is sent nowhere else while it is still on its way', () => {
    player.place(1000)
    film.seeking = false
    player.place(2000)
    player.place(3000)
    player.seeked()
    expect(film.sought).toEqual([1000, 2000])
    film.seeking = false
    player.seeked()
    expect(film.sought).toEqual([1000, 2000, 3000])
  })
})
