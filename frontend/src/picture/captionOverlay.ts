/** The captions over the film, drawn by the same library that burns them in. */
import JASSUB from 'jassub'

import { fontsNamed, LATIN } from '@/picture/shelf'

/** The renderer is given the captions near the playhead only, so that a long track costs no more. */
export const BEFORE_MS = 20_000
export const AFTER_MS = 60_000

export interface Moment {
  mediaTime: number
  width: number
  height: number
}

const isSame = (a: Moment | null, b: Moment) => a !== null && a.mediaTime === b.mediaTime && isAsLarge(a, b)
const isAsLarge = (a: Moment, b: Moment) => a.width === b.width && a.height === b.height

export class CaptionOverlay {
  readonly ready: Promise<void>
  private readonly renderer: JASSUB
  private script = ''
  private moment: Moment | null = null
  /** The one that was drawn last. */
  private drawn: Moment | null = null
  private wanted: { repaint: boolean; resize?: boolean } | null = null
  private drawing: Promise<void> | null = null
  private readonly fetched = new Set<string>()

  constructor(canvas: HTMLCanvasElement, head: string) {
    this.renderer = new JASSUB({
      canvas,
      subContent: head,
      fonts: LATIN,
      availableFonts: { 'noto sans': LATIN[0]! },
      defaultFont: 'noto sans',
      queryFonts: false,
    })
    this.ready = this.renderer.ready
  }

  /** Draws a moment of the film, in its picture's sizes; ends when the newest one asked for is drawn. */
  show(moment: Moment): Promise<void> {
    this.moment = moment
    this.wanted ??= { repaint: false }
    return this.draw()
  }

  /** Takes the lines of other captions, and draws the moment again. */
  put(head: string, lines: readonly string[]): Promise<void> {
    const script = head + lines.join('')
    if (script !== this.script) {
      this.script = script
      this.wanted = { repaint: true, resize: this.wanted?.resize }
    }
    return this.draw()
  }

  /** The box it is drawn in is of another size: without this it would be stretched. */
  resized(): Promise<void> {
    this.wanted = { repaint: this.wanted?.repaint ?? false, resize: true }
    return this.draw()
  }

  /** Its box is taken away, and with it what is drawn: what is shown next takes its measure anew. */
  loseBox() {
    this.wanted = { repaint: this.wanted?.repaint ?? false, resize: true }
  }

  /** Whether a moment is the newest that was asked for. */
  shows(moment: Moment): boolean {
    return moment === this.moment
  }

  private draw(): Promise<void> {
    this.drawing ??= this.drawWanted()
    return this.drawing
  }

  private async drawWanted() {
    await this.ready
    try {
      while (this.wanted) {
        const { repaint, resize } = this.wanted
        this.wanted = null
        if (repaint) await this.fetchFonts(this.script)
        // The worker takes one after the other: what is drawn waits for the lines there, not for a word that they came.
        const taken = repaint ? this.renderer.renderer.setTrack(this.script) : null
        if (this.moment) await this.drawMoment(this.moment, repaint, resize)
        await taken
      }
    } finally {
      // In the same breath as the last look at what is wanted, or something asked for would be missed.
      this.drawing = null
    }
  }

  /** Draws it once, or not at all where it stands there: the renderer takes the measure of its box, too, where a moment's picture has
   * another size, and draws anew what it drew last where it is told that the box changed. */
  private async drawMoment(moment: Moment, repaint: boolean, resize = false) {
    const before = this.drawn
    this.drawn = moment
    if (isSame(before, moment) && !repaint && !resize) return
    const isOtherSize = before === null || !isAsLarge(before, moment)
    if (resize && !isOtherSize) await this.renderer.resize(true)
    if (!resize || isOtherSize || !isSame(before, moment)) {
      await this.renderer.manualRender({ expectedDisplayTime: performance.now(), ...moment }, repaint)
    }
  }

  /** Gives the renderer what a script is drawn with beside the Latin fonts, each once. */
  private async fetchFonts(script: string) {
    const missing = fontsNamed(script).filter((file) => !this.fetched.has(file))
    if (!missing.length) return
    for (const file of missing) this.fetched.add(file)
    await this.renderer.renderer.addFonts(missing)
  }

  destroy() {
    void this.renderer.destroy()
  }
}
