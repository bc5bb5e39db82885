/**
 * Edits on their way to the server, one at a time and in their order. What gets no answer stays and is sent
 * again; what is refused for good is handed back. Nothing is dropped.
 */
export interface Waiting<E> {
  edit: E
  /** Names it for the server, which stores it once however often it is sent. */
  key: string
  gesture: string
  /** Whether it was sent: from then on it stays what it is. */
  sent: boolean
}

export interface Route<E, A> {
  send: (waiting: Waiting<E>) => Promise<A>
  /** What the server answered; the edit has left the queue by then. */
  took: (answer: A, waiting: Waiting<E>) => void
  /** Whether a problem is the server's last word. */
  isFinal: (problem: unknown) => boolean
  refused: (problem: unknown, waiting: Waiting<E>) => Promise<void> | void
  /** What two edits in a row are as one; null when both are sent. */
  joined: (next: E, last: E) => E | null
  /** Something is others now: what waits, or how it goes. */
  changed: () => void
  pause: () => Promise<void>
  newKey: () => string
}

export type Saving = 'saved' | 'saving' | 'waiting'

export class EditQueue<E, A> {
  private entries: Waiting<E>[] = []
  private draining: Promise<void> | null = null
  saving: Saving = 'saved'
  /** Why it waits, in words. */
  problem = ''

  constructor(private readonly route: Route<E, A>) {}

  get waiting(): readonly Waiting<E>[] {
    return this.entries
  }

  /** Takes an edit on; one of the same gesture that was not sent yet gives its place to it. Ends when it was answered. */
  push(edit: E, gesture: string): Promise<void> {
    const last = this.entries.at(-1)
    const one = last && !last.sent && last.gesture === gesture ? this.route.joined(edit, last.edit) : null
    if (last && one) last.edit = one
    else this.entries.push({ edit, gesture, key: this.route.newKey(), sent: false })
    return this.drain()
  }

  /** Ends when nothing waits any more. */
  async settled() {
    while (this.draining) await this.draining
  }

  private drain(): Promise<void> {
    this.draining ??= this.sendAll().finally(() => {
      this.draining = null
    })
    return this.draining
  }

  private async sendAll() {
    while (this.entries.length) {
      const first = this.entries[0]!
      first.sent = true
      if (this.saving === 'saved') this.say('saving', '')
      try {
        const answer = await this.route.send(first)
        this.leave(first)
        this.say('saving', '')
        this.route.took(answer, first)
      } catch (problem) {
        if (this.route.isFinal(problem)) {
          this.leave(first)
          await this.route.refused(problem, first)
        } else {
          this.say('waiting', problem instanceof Error ? problem.message : '')
          await this.route.pause()
        }
      }
    }
    this.say('saved', '')
  }

  private leave(entry: Waiting<E>) {
    this.entries = this.entries.filter((other) => other !== entry)
  }

  private say(saving: Saving, problem: string) {
    this.saving = saving
    this.problem = problem
    this.route.changed()
  }
}
