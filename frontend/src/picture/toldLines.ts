/**
 * Lines of the render script that are read when they are to be drawn, those nearest to the playhead first: of captions
 * whose words are told one by one, as there are many of them to a caption, and of all captions in a version.
 */
import { answered, client } from '@/api/client'
import type { Caption } from '@/session/captions'
import type { VersionView } from '@/session/versionsStore'

/** The one that is seen and the next, which are there in no time; and then so many at once. */
const FIRST = 2
const AT_ONCE = 6

/** What captions are drawn in: the film's own picture, or a version's. */
export interface Drawing {
  track: string
  /** Other lines go with another name. */
  name: string
  version: VersionView | undefined
}

/** Lines that were read, by what they are drawn in; a caption that is another has lines of its own. */
let known = { name: '', lines: new WeakMap<Caption, string>() }
/** What is drawn of a caption until its own lines are there. */
const before = new Map<string, string>()
const placeBefore = (id: string, { version }: Drawing) => (version ? `${version.id}/${id}` : id)

/** The lines of a caption; of one whose lines are read, those that are known of it or of what it was. */
export function linesOf(caption: Caption, drawing: Drawing): string {
  if (drawing.version?.apart[caption.id]?.hidden) return ''
  const own = drawing.version ? null : caption.script
  return own ?? read(drawing).get(caption) ?? before.get(placeBefore(caption.id, drawing)) ?? ''
}

function read({ name }: Drawing) {
  if (known.name !== name) known = { name, lines: new WeakMap() }
  return known.lines
}

/** Reads the lines that are missing of captions, and says so each time that some came; ends early once `isOver`. */
export async function readLines(drawing: Drawing, captions: readonly Caption[], at_ms: number, came: () => void, isOver: () => boolean) {
  const away = ({ in_ms, out_ms }: Caption) => (at_ms < in_ms ? in_ms - at_ms : Math.max(at_ms - out_ms, 0) * 4)
  const lines = read(drawing)
  const { version } = drawing
  const isMissing = (caption: Caption) => (version ? !version.apart[caption.id]?.hidden : caption.script === null) && !lines.has(caption)
  let many = FIRST
  const missing = captions.filter(isMissing).sort((a, b) => away(a) - away(b))
  while (missing.length && !isOver()) {
    const asked = missing.splice(0, many)
    many = AT_ONCE
    const found = await linesFrom(drawing, asked.map(({ id }) => id))
    for (const caption of asked) {
      const own = found[caption.id]
      if (own === undefined) continue
      lines.set(caption, own)
      before.set(placeBefore(caption.id, drawing), own)
    }
    came()
  }
}

async function linesFrom({ track, version }: Drawing, captions: string[]): Promise<Record<string, string>> {
  const body = { captions }
  if (!version) return (await answered(client.POST('/api/tracks/{track_id}/drawn', { params: { path: { track_id: track } }, body }))).lines
  const params = { path: { track_id: track, version_id: version.id } }
  return (await answered(client.POST('/api/tracks/{track_id}/versions/{version_id}/drawn', { params, body }))).lines
}
