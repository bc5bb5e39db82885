/**
 * Lines of the render script of captions whose words are told one by one. There are many of them to a caption, so they
 * are read when they are to be drawn, those nearest to the playhead first.
 */
import { answered, client } from '@/api/client'
import type { Caption } from '@/session/captions'

/** The one that is seen and the next, which are there in no time; and then so many at once. */
const FIRST = 2
const AT_ONCE = 6

/** A caption that is another has lines of its own. */
const known = new WeakMap<Caption, string>()
/** What is drawn of a caption until its own lines are there. */
const before = new Map<string, string>()

/** The lines of a caption; of one that is told, those that are known of it or of what it was. */
export function linesOf(caption: Caption): string {
  return caption.script ?? known.get(caption) ?? before.get(caption.id) ?? ''
}

/** Reads the lines that are missing of captions, and says so each time that some came; ends early once `isOver`. */
export async function readLines(track: string, captions: readonly Caption[], at_ms: number, came: () => void, isOver: () => boolean) {
  const away = ({ in_ms, out_ms }: Caption) => (at_ms < in_ms ? in_ms - at_ms : Math.max(at_ms - out_ms, 0) * 4)
  let many = FIRST
  const missing = captions.filter((caption) => caption.script === null && !known.has(caption)).sort((a, b) => away(a) - away(b))
  while (missing.length && !isOver()) {
    const asked = missing.splice(0, many)
    many = AT_ONCE
    const { lines } = await answered(
      client.POST('/api/tracks/{track_id}/drawn', { params: { path: { track_id: track } }, body: { captions: asked.map(({ id }) => id) } }),
    )
    for (const caption of asked) {
      const own = lines[caption.id]
      if (own === undefined) continue
      known.set(caption, own)
      before.set(caption.id, own)
    }
    came()
  }
}
