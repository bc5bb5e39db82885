/** The page of third-party notices, as it stands in the repository, in the parts it is shown by. */
export interface Part {
  title: string
  blocks: { kind: 'text' | 'points'; texts: string[] }[]
}

/** Parts of a text in Markdown, of which headings, paragraphs and lists are known. */
export function partsOf(markdown: string): Part[] {
  return markdown
    .split(/^## /m)
    .slice(1)
    .map((part) => {
      const [title = '', ...rest] = part.split('\n')
      return { title: title.trim(), blocks: blocksOf(rest.join('\n')) }
    })
}

function blocksOf(text: string): Part['blocks'] {
  return text
    .trim()
    .split(/\n{2,}/)
    .filter(Boolean)
    .map((block) => {
      const isList = block.startsWith('- ')
      const texts = isList ? block.slice(2).split(/\n- /) : [block]
      return { kind: isList ? 'points' : 'text', texts: texts.map((one) => one.replace(/\s+/g, ' ').replaceAll('`', '')) }
    })
}
