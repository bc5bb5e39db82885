/** Ten beats to press a key to, which tell by how much a hand is late. */
import { onScopeDispose, ref } from 'vue'

const BEATS = 10
/** The first ones are for finding the rhythm's lack: no two pauses are alike. */
const PAUSES_S = [0.9, 1.15, 0.8, 1.3, 0.95, 1.1, 0.75, 1.2, 0.85, 1.0]
/** A press farther from a beat than this belongs to none. */
const FARTHEST_MS = 600
const LEAST_PRESSES = 5

export function useReactionBeats(done: (medianMs: number) => void) {
  const beat = ref(0)
  const running = ref(false)
  let context: AudioContext | null = null
  let beatsAt: number[] = []
  let pressesAt: number[] = []
  let timer = 0

  async function start() {
    stop()
    context = new AudioContext()
    await context.resume()
    running.value = true
    pressesAt = []
    const begins = context.currentTime + 1
    // The sound card's clock against that of key events.
    const stamp = context.getOutputTimestamp()
    const offset =
      stamp.performanceTime && stamp.contextTime
        ? stamp.performanceTime - stamp.contextTime * 1000
        : performance.now() - context.currentTime * 1000
    let at = begins
    beatsAt = PAUSES_S.map((pause) => {
      at += pause
      sound(context!, at)
      return at * 1000 + offset
    })
    tick()
  }

  function sound(on: AudioContext, at: number) {
    const tone = on.createOscillator()
    const gain = on.createGain()
    tone.frequency.value = 660
    gain.gain.setValueAtTime(0, at)
    gain.gain.linearRampToValueAtTime(0.5, at + 0.004)
    gain.gain.exponentialRampToValueAtTime(0.001, at + 0.09)
    tone.connect(gain).connect(on.destination)
    tone.start(at)
    tone.stop(at + 0.1)
  }

  function tick() {
    beat.value = beatsAt.filter((at) => at <= performance.now()).length
    if (beat.value === BEATS && performance.now() > beatsAt.at(-1)! + FARTHEST_MS) {
      const late = pressesAt.flatMap((press) => {
        const near = beatsAt.reduce((best, at) => (Math.abs(press - at) < Math.abs(press - best) ? at : best))
        return Math.abs(press - near) <= FARTHEST_MS ? [press - near] : []
      })
      stop()
      if (late.length >= LEAST_PRESSES) done(Math.round(late.sort((a, b) => a - b)[late.length >> 1]!))
      return
    }
    timer = requestAnimationFrame(tick)
  }

  function press(event: KeyboardEvent) {
    if (!event.repeat) pressesAt.push(event.timeStamp)
  }

  function stop() {
    cancelAnimationFrame(timer)
    void context?.close()
    context = null
    running.value = false
    beat.value = 0
  }

  onScopeDispose(stop)
  return { beat, beats: BEATS, running, start, press, stop }
}
