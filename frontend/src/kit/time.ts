/** Times and sizes as people read them. */

export interface FrameRate {
  numerator: number
  denominator: number
}

const two = (value: number) => String(value).padStart(2, '0')

/** `HH:MM:SS.mmm`. */
export function clock(ms: number): string {
  const whole = Math.max(0, Math.round(ms))
  const seconds = Math.floor(whole / 1000)
  const part = String(whole % 1000).padStart(3, '0')
  return `${two(Math.floor(seconds / 3600))}:${two(Math.floor(seconds / 60) % 60)}:${two(seconds % 60)}.${part}`
}

/** `MM:SS.mmm`, with hours where there are any. */
export function shortClock(ms: number): string {
  const full = clock(ms)
  return full.startsWith('00:') ? full.slice(3) : full
}

/** `M:SS`, with hours where there are any: for marks on a ruler and for lengths. */
export function minutes(ms: number): string {
  const seconds = Math.round(ms / 1000)
  const hours = Math.floor(seconds / 3600)
  const rest = `${hours ? two(Math.floor(seconds / 60) % 60) : Math.floor(seconds / 60)}:${two(seconds % 60)}`
  return hours ? `${hours}:${rest}` : rest
}

/** `0.83 s`. */
export function seconds(ms: number, digits = 2): string {
  return `${(ms / 1000).toFixed(digits)} s`
}

/** Frame rates that films have, in frames a second, as people say them. */
export const RATES = ['23.976', '24', '25', '29.97', '30', '50', '59.94', '60'] as const

/** `25`, `23.976`. */
export function framesPerSecond({ numerator, denominator }: FrameRate): string {
  return String(Math.round((numerator / denominator) * 1000) / 1000)
}

const WHEN = new Intl.DateTimeFormat(undefined, { dateStyle: 'medium', timeStyle: 'short' })

/** Day and time of day, from milliseconds since 1970. */
export const dayAndTime = (ms: number) => WHEN.format(ms)

/** Index of the frame on screen; the same sum as the server's. */
export function frameAt(ms: number, rate: FrameRate): number {
  return Math.floor((Math.floor(ms) * rate.numerator) / (1000 * rate.denominator))
}

/** Milliseconds at which a frame is first shown, rounded up. */
export function startOfFrame(frame: number, rate: FrameRate): number {
  return Math.ceil((frame * 1000 * rate.denominator) / rate.numerator)
}

/** The start of the frame that begins nearest. */
export function snap(ms: number, rate: FrameRate): number {
  const frame = frameAt(Math.max(ms, 0), rate)
  const before = startOfFrame(frame, rate)
  const after = startOfFrame(frame + 1, rate)
  return ms - before <= after - ms ? before : after
}

/** A time moved by whole frames, on a frame. */
export function moveFrames(ms: number, frames: number, rate: FrameRate): number {
  return startOfFrame(Math.max(0, frameAt(snap(ms, rate), rate) + frames), rate)
}

export function fileSize(bytes: number): string {
  if (bytes < 1e6) return `${Math.max(1, Math.round(bytes / 1e3))} kB`
  return bytes < 1e9 ? `${(bytes / 1e6).toFixed(1)} MB` : `${(bytes / 1e9).toFixed(2)} GB`
}
