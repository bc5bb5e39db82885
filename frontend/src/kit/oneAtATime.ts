/** Work that is never done twice at once: asked for meanwhile, what is under way is waited for. */
export function oneAtATime(work: () => Promise<void>): () => Promise<void> {
  let running: Promise<void> | null = null
  return () => (running ??= work().finally(() => (running = null)))
}
