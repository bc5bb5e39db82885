/**
 * What the IMSC reference reader sees in a TTML file, as JSON on standard output: everything it complains of, and for
 * each moment at which the picture changes the lines that are shown, with their size in parts of the picture's height.
 */
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'

globalThis.navigator ??= { userAgent: '' }
const require = createRequire(import.meta.url)
const { fromXML } = require('imsc/src/main/js/doc.js')
const { generateISD } = require('imsc/src/main/js/isd.js')

const problems = []
const tell = (kind) => (message) => void problems.push(`${kind}: ${message}`)
const handler = { info: () => {}, warn: tell('warning'), error: tell('error'), fatal: tell('fatal') }

const style = (element, name) => element.styleAttrs?.[`http://www.w3.org/ns/ttml#styling ${name}`]

/** Text of an element in order, a line break as a newline, each piece with how it is drawn. */
function* pieces(element) {
  if (element.kind === 'br') yield { text: '\n' }
  if (element.text !== undefined) {
    yield {
      text: element.text,
      size: style(element, 'fontSize')?.toUsedLength?.(1, 1) ?? null,
      italic: style(element, 'fontStyle') === 'italic',
      colour: style(element, 'color') ?? null,
      ruby: style(element, 'ruby') ?? null,
    }
  }
  for (const child of element.contents ?? []) yield* pieces(child)
}

function* paragraphs(element) {
  if (element.kind === 'p') yield element
  else for (const child of element.contents ?? []) yield* paragraphs(child)
}

const document = fromXML(readFileSync(process.argv[2], 'utf8'), handler)
const moments = document.getMediaTimeEvents().map((seconds) => {
  const shown = generateISD(document, seconds, handler)
  return {
    ms: Math.round(seconds * 1000),
    paragraphs: (shown?.contents ?? []).flatMap((region) =>
      [...paragraphs(region)].map((p) => ({ direction: style(p, 'direction') ?? null, pieces: [...pieces(p)] })),
    ),
  }
})
process.stdout.write(JSON.stringify({ problems, moments }))
