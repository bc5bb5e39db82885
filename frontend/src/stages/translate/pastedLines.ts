/** Lines that were translated elsewhere and copied: one for each caption, from one on. */
import { type Caption, isShape, textOf } from '@/session/captions'

export interface Pasted {
  changes: { caption: string; text: string }[]
  /** The first caption that has text of its own, and would have lost it: nothing is put then. */
  written: Caption | undefined
  /** Lines for which there are no captions. */
  over: number
}

/** What a copied text has for captions in a row. */
export function pastedLines(text: string, captions: readonly Caption[], from: number): Pasted {
  const lines = text.split(/\r?\n/).map((line) => line.trim()).filter(Boolean)
  const places = captions.slice(from).filter((caption) => !isShape(caption)).slice(0, lines.length)
  return {
    changes: places.map(({ id }, index) => ({ caption: id, text: lines[index]! })),
    written: places.find((caption) => textOf(caption).trim()),
    over: lines.length - places.length,
  }
}
