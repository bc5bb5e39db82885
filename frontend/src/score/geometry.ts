/** Where times stand on the Score. Plain sums over sorted captions, the same for ten and ten thousand. */
import { firstFrom } from '@/session/captions'

export interface Timed {
  in_ms: number
  out_ms: number
}

export interface Box {
  top: number
  height: number
}

/** Time against pixels down the page. */
export interface Geometry {
  readonly height: number
  /** True when cards stand in even rows, far out. */
  readonly rows: boolean
  y(ms: number): number
  ms(y: number): number
  box(index: number): Box
  /** Indices of the cards that touch a stretch of the page: from the first up to, not including, the last. */
  visible(top: number, bottom: number): [number, number]
}

/** Room under the last moment, so that it can be scrolled to the middle. */
const TAIL = 200
/** Scales from the whole film to single frames; below `ROWS_UNDER` cards close up to rows. */
export const SCALES = [4, 8, 14, 24, 36, 50, 72, 100, 140, 200, 320, 500, 1000] as const
export const ROWS_UNDER = 20
export const ROW_HEIGHT = 34

/** Sound and cards at their times: every second is as long as every other. */
export class EvenTime implements Geometry {
  readonly rows = false
  readonly height: number
  private readonly longest: number

  constructor(
    private readonly captions: readonly Timed[],
    durationMs: number,
    private readonly pixelsPerSecond: number,
  ) {
    const last = captions.reduce((end, caption) => Math.max(end, caption.out_ms), durationMs)
    this.longest = captions.reduce((most, caption) => Math.max(most, caption.out_ms - caption.in_ms), 0)
    this.height = this.y(last) + TAIL
  }

  y(ms: number): number {
    return (ms * this.pixelsPerSecond) / 1000
  }

  ms(y: number): number {
    return (y * 1000) / this.pixelsPerSecond
  }

  box(index: number): Box {
    const caption = this.captions[index]!
    return { top: this.y(caption.in_ms), height: this.y(caption.out_ms - caption.in_ms) }
  }

  visible(top: number, bottom: number): [number, number] {
    const first = firstFrom(this.captions, this.ms(top) - this.longest)
    return [first, firstFrom(this.captions, this.ms(bottom) + 1)]
  }
}

/** Cards in even rows, a list of the whole film; between two ins, time runs evenly down a row. */
export class EvenRows implements Geometry {
  readonly rows = true
  readonly height: number

  constructor(
    private readonly captions: readonly Timed[],
    private readonly durationMs: number,
  ) {
    // The first row is the time before the first caption.
    this.height = (captions.length + 1) * ROW_HEIGHT + TAIL
  }

  private start(row: number): number {
    return row < 0 ? 0 : (this.captions[row]?.in_ms ?? this.durationMs)
  }

  y(ms: number): number {
    const row = firstFrom(this.captions, ms + 1) - 1
    const from = this.start(row)
    const to = Math.max(this.start(row + 1), from + 1)
    return (row + 1 + Math.min(Math.max((ms - from) / (to - from), 0), 1)) * ROW_HEIGHT
  }

  ms(y: number): number {
    const place = Math.min(Math.max(y / ROW_HEIGHT, 0), this.captions.length + 1)
    const row = Math.min(Math.floor(place), this.captions.length) - 1
    const from = this.start(row)
    return from + (place - row - 1) * (Math.max(this.start(row + 1), from) - from)
  }

  box(index: number): Box {
    return { top: (index + 1) * ROW_HEIGHT, height: ROW_HEIGHT }
  }

  visible(top: number, bottom: number): [number, number] {
    const clamp = (row: number) => Math.min(Math.max(row, 0), this.captions.length)
    return [clamp(Math.floor(top / ROW_HEIGHT) - 1), clamp(Math.ceil(bottom / ROW_HEIGHT))]
  }
}

/** Where a caption stands beside those that are shown at the same time: in which lane, of how many. */
export interface Lane {
  lane: number
  of: number
}

/** Lanes of captions in order of their ins: one, but where some overlap as many as are shown at once. */
export function lanes(captions: readonly Timed[]): Lane[] {
  const found: Lane[] = []
  let ends: number[] = []
  let first = 0
  const close = (after: number) => {
    for (let i = first; i < after; i++) found[i]!.of = ends.length
  }
  captions.forEach((caption, index) => {
    if (ends.every((end) => end <= caption.in_ms)) {
      close(index)
      ;[ends, first] = [[], index]
    }
    const free = ends.findIndex((end) => end <= caption.in_ms)
    const lane = free < 0 ? ends.length : free
    ends[lane] = caption.out_ms
    found.push({ lane, of: 1 })
  })
  close(captions.length)
  return found
}

/** Tops of notes that keep their order and never cover each other, as near as can be to where they belong. */
export function stacked(wanted: readonly Box[]): number[] {
  let free = Number.NEGATIVE_INFINITY
  return wanted.map(({ top, height }) => {
    const at = Math.max(top, free)
    free = at + height
    return at
  })
}
