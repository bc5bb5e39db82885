/** The captions over the film, drawn by the same library that burns them in. */
import JASSUB from 'jassub'

import type { Caption } from '@/project/captions'

const FONTS = ['Regular', 'Bold', 'Italic', 'BoldItalic'].map((face) => `/fonts/NotoSans-${face}.ttf`)
/** The renderer is given the captions near the playhead only, so that a long track costs no more. */
export const BEFORE_MS = 20_000
export const AFTER_MS = 60_000

export interface Moment {
  mediaTime: number
  width: number
  height: number
}

export class CaptionOverlay {
  readonly ready: Promise<void>
  private readonly renderer: JASSUB
  private script = ''
  private moment: Moment | null = null
  private changing: Promise<void> = Promise.resolve()

  constructor(canvas: HTMLCanvasElement, head: string) {
    this.renderer = new JASSUB({
      canvas,
      subContent: head,
      fonts: FONTS,
      availableFonts: { 'noto sans': FONTS[0]! },
      defaultFont: 'noto sans',
      queryFonts: false,
    })
    this.ready = this.renderer.ready
  }

  /** Draws a moment of the film. Sizes are those of the film's picture. */
  async show(moment: Moment, repaint = false) {
    this.moment = moment
    await this.ready
    await this.renderer.manualRender({ expectedDisplayTime: performance.now(), ...moment }, repaint)
  }

  /** Takes other captions, and draws the moment again. */
  async put(head: string, captions: readonly Caption[]) {
    const script = head + captions.map((caption) => caption.script).join('')
    if (script === this.script) return
    this.script = script
    this.changing = this.changing.then(async () => {
      if (script !== this.script) return
      await this.ready
      await this.renderer.renderer.setTrack(script)
      if (this.moment) await this.show(this.moment, true)
    })
    await this.changing
  }

  destroy() {
    void this.renderer.destroy()
  }
}
