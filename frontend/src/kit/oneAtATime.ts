/** Work that is never done twice at once: asked for meanwhile, what is under way is waited for. */
export function oneAtATime(work: () => Promise<void>): () => Promise<void> {
  let running: Promise<void> | null = null
  return () => (running ??= work().finally(() => (running = null)))
}

/** Work that is done once more when it was asked for while it was done: what it goes by may be others by then. */
export function andOnceMore(work: () => Promise<void>): () => Promise<void> {
  let again = false
  const run = oneAtATime(async () => {
    while (again) {
      again = false
      await work()
    }
  })
  return () => {
    again = true
    return run()
  }
}
