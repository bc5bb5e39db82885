/** The film's playhead and transport. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'

import { useProject } from '@/session/projectStore'
import { frameAt, moveFrames, snap, startOfFrame } from '@/kit/time'

/** Speeds in order, backwards ones below zero. */
export const SPEEDS = [-4, -2, -1, 0.5, 0.75, 1, 1.25, 1.5, 2, 3] as const

/** Long enough to tell a vowel from a pause. */
const SCRUB_MS = 90

export const usePlayer = defineStore('player', () => {
  const project = useProject()
  const video = shallowRef<HTMLVideoElement | null>(null)
  const timeMs = ref(0)
  const playing = ref(false)
  const speed = ref(1)
  const failed = ref(false)
  const following = ref(true)
  const volume = ref(1)
  /** By how much a pause steps back, so that what is heard next is understood. */
  const backOnPauseMs = ref(0)
  /** Whether a stretch is played, and not the film. */
  const hearing = ref(false)
  let stopAtMs: number | null = null
  let loopFromMs: number | null = null
  /** Where to go once the browser has come to where it is going: asked again on its way, it may never arrive. */
  let nextSeconds: number | null = null
  let lastTick = 0
  let frame = 0
  let scrubbing = 0

  const frameNumber = computed(() => frameAt(timeMs.value, project.rate))

  function attach(element: HTMLVideoElement | null) {
    video.value = element
    nextSeconds = null
    if (!element) return
    element.preservesPitch = true
    element.volume = volume.value
    if (timeMs.value) element.currentTime = timeMs.value / 1000
    if (playing.value) void play(speed.value)
  }

  function tick(now: number) {
    const element = video.value
    if (!playing.value || !element) return
    if (speed.value < 0) {
      // No browser plays backwards: the playhead is taken back by as much as has passed.
      const target = timeMs.value + (now - lastTick) * speed.value
      place(Math.max(0, target))
      if (target <= 0) pause()
    } else if (nextSeconds === null) {
      timeMs.value = element.currentTime * 1000
    }
    lastTick = now
    if (stopAtMs !== null && timeMs.value >= stopAtMs) {
      if (loopFromMs !== null) place(loopFromMs)
      else {
        const end = stopAtMs
        pause()
        place(end)
        return
      }
    }
    frame = requestAnimationFrame(tick)
  }

  async function play(at = speed.value) {
    const element = video.value
    if (!element) return
    speed.value = at
    following.value = true
    cancelAnimationFrame(frame)
    if (at > 0) {
      if (timeMs.value >= startOfFrame(frameAt(project.durationMs - 1, project.rate), project.rate)) place(0)
      element.playbackRate = at
      try {
        await element.play()
      } catch {
        if (video.value === element) playing.value = !element.paused
        return
      }
      // Stopped, or another way of playing asked for, while the browser made ready.
      if (element.paused || speed.value !== at || video.value !== element) return
    } else {
      element.pause()
    }
    playing.value = true
    lastTick = performance.now()
    cancelAnimationFrame(frame)
    frame = requestAnimationFrame(tick)
  }

  function pause() {
    video.value?.pause()
    cancelAnimationFrame(frame)
    playing.value = false
    stopAtMs = null
    loopFromMs = null
    hearing.value = false
    if (speed.value < 0) speed.value = 1
    // Paused, the playhead stands on a frame, so that ins and outs set at it are on one too.
    place(startOfFrame(frameAt(timeMs.value + 0.5, project.rate), project.rate))
  }

  function toggle() {
    if (playing.value) {
      pause()
      if (backOnPauseMs.value) place(snap(Math.max(timeMs.value - backOnPauseMs.value, 0), project.rate))
    } else {
      void play(1)
    }
  }

  /** Faster, from pause forward; or slower, from pause backward. */
  function shuttle(direction: 1 | -1) {
    if (!playing.value) {
      void play(direction)
      return
    }
    const next = SPEEDS.indexOf(speed.value as (typeof SPEEDS)[number]) + direction
    const chosen = SPEEDS[Math.min(Math.max(next, 0), SPEEDS.length - 1)]!
    void play(chosen)
  }

  /** The film's time at a moment of the page's clock, such as that of a key press; not that at which it is asked. */
  function timeAt(moment: number): number {
    const element = video.value
    if (!element || !playing.value || speed.value < 0 || nextSeconds !== null) return timeMs.value
    return element.currentTime * 1000 - (performance.now() - moment) * element.playbackRate
  }

  /** Puts the playhead at a time, without stopping. */
  function place(ms: number) {
    const inside = Math.min(Math.max(ms, 0), Math.max(project.durationMs, 0))
    timeMs.value = inside
    // Just behind the start of the frame: an exact start may be rounded to the frame before.
    const seconds = (inside + 0.5) / 1000
    if (video.value?.seeking) {
      nextSeconds = seconds
    } else {
      nextSeconds = null
      if (video.value) video.value.currentTime = seconds
    }
  }

  /** The browser has come to where it was sent. */
  function seeked() {
    // It may have been sent on before it told so, and tells again when it has come there.
    if (video.value?.seeking) return
    if (video.value && nextSeconds !== null) video.value.currentTime = nextSeconds
    nextSeconds = null
  }

  /** Puts the playhead at a time, and lets the sound there be heard for a moment. */
  function scrub(ms: number) {
    place(ms)
    const element = video.value
    if (playing.value || !element) return
    clearTimeout(scrubbing)
    void element.play().catch(() => undefined)
    scrubbing = window.setTimeout(() => {
      if (playing.value) return
      element.pause()
      place(timeMs.value)
    }, SCRUB_MS)
  }

  function stepFrames(frames: number) {
    if (playing.value) pause()
    place(moveFrames(timeMs.value, frames, project.rate))
  }

  /** Plays from a time to another, once or again and again. */
  function hear(fromMs: number, toMs: number, loop = false) {
    place(fromMs)
    stopAtMs = toMs
    hearing.value = true
    loopFromMs = loop ? fromMs : null
    void play(Math.abs(speed.value))
  }

  /** The film has come to its end. */
  function ended() {
    if (loopFromMs !== null) {
      place(loopFromMs)
      void play()
      return
    }
    if (video.value) timeMs.value = video.value.currentTime * 1000
    pause()
  }

  function setSpeed(value: number) {
    speed.value = value
    if (playing.value) void play(value)
  }

  function setVolume(value: number) {
    volume.value = value
    if (video.value) video.value.volume = value
  }

  function reset() {
    if (playing.value) pause()
    timeMs.value = 0
    speed.value = 1
    failed.value = false
  }

  return {
    video, timeMs, playing, hearing, speed, failed, following, volume, backOnPauseMs, frameNumber,
    attach, play, pause, toggle, shuttle, timeAt, place, seeked, scrub, stepFrames, hear, ended, setSpeed, setVolume, reset,
  }
})
