import { getSchema } from '@tiptap/core'
import { describe, expect, it } from 'vitest'

import type { Word } from '@/api/client'
import { extensions, paragraphsOf } from '@/stages/transcribe/transcript/transcriptDocument'
import { movedTo, newWords, paragraphsAfter } from '@/stages/transcribe/transcript/rebasing'

const schema = getSchema(extensions)
/** Words with a paragraph at each bar. */
function words(text: string): Word[] {
  return text.split(' | ').flatMap((paragraph) =>
    paragraph.split(' ').map((one, n) => ({
      text: one, start_ms: 0, end_ms: 400, confidence: 1, speaker: null, begins: n === 0, guessed: false,
      italic: false, bold: false, underline: false, left_out: false,
    })),
  )
}
const paragraphs = (text: string) => paragraphsOf(schema, words(text))
const OLD = 'Ring the bell. | Nobody heard it | since the winter.'

describe('the paragraphs of a newer transcript', () => {
  it.each([
    OLD,
    'Ring the small bell. | Nobody heard it | since the winter.',
    'Ring the bell. Nobody heard it | since the winter.',
    'Ring the bell. | Nobody | heard it | since the winter.',
    'Do. | Ring the bell. | Nobody heard it | since the winter.',
    'Ring the bell. | Nobody heard it | since the winter. Bring',
    'Ring the bell. | Nobody heard it | since the winter. | Bring coats.',
    'Ring the bell. | since the winter.',
    'Ring the bell. again | Nobody heard it | since the winter.',
    'Ring the bell. | it | since the winter.',
    'All other.',
  ])('are those of its words: %s', (text) => {
    const old = paragraphs(OLD)
    const now = paragraphsAfter(schema, old, words(OLD), words(text))
    expect(now.map(String)).toEqual(paragraphs(text).map(String))
    expect(now.filter((node) => old.includes(node)).length).toBe(paragraphs(text).filter((node) => old.some((one) => one.eq(node))).length)
  })

  it('are all of them when there were none', () => {
    expect(paragraphsAfter(schema, [], [], words(OLD)).map(String)).toEqual(paragraphs(OLD).map(String))
    expect(paragraphsAfter(schema, paragraphs(OLD), words(OLD), [])).toEqual([])
  })
})

describe('what another window wrote', () => {
  it('leaves a paragraph where it was when it is behind it', () => {
    expect(movedTo(0, 1, paragraphs(OLD), paragraphs('Ring the bell. | All heard it | since the winter.'))).toBe(0)
    expect(movedTo(0, 2, paragraphs(OLD), paragraphs(`${OLD} | Bring coats.`))).toBe(0)
  })

  it('moves a paragraph that it is before', () => {
    expect(movedTo(1, 1, paragraphs(OLD), paragraphs(`Do. | Not | ${OLD}`))).toBe(3)
    expect(movedTo(3, 0, paragraphs(OLD), paragraphs(`Do. | ${OLD}`))).toBe(4)
    expect(movedTo(0, 0, paragraphs(OLD), paragraphs(`Do. | ${OLD}`))).toBe(1)
    expect(movedTo(1, 1, paragraphs(OLD), paragraphs('Do. | Nobody heard it | since.'))).toBe(1)
  })

  it('leaves no place to a paragraph that it is in', () => {
    const [first, second, third] = paragraphs(OLD) as [ReturnType<typeof paragraphs>[0], ReturnType<typeof paragraphs>[0], ReturnType<typeof paragraphs>[0]]
    const spoken = schema.nodes.paragraph!.create({ ...second.attrs, speaker: 'Ilse' }, second.content)
    expect(movedTo(1, 1, [first, second, third], [first, spoken, third])).toBeNull()
    expect(movedTo(0, 2, [first, second, third], [first, spoken, third])).toBeNull()
    expect(movedTo(0, 1, [first, second, third], [])).toBeNull()
  })

  it('is told from the words written here', () => {
    expect(newWords(paragraphs(OLD), paragraphs('Ring the small bell. | Someone heard it | since the winter.'))).toBe('small bell. Someone')
    expect(newWords(paragraphs(OLD), paragraphs(OLD).slice(1))).toBe('')
    expect(newWords([], paragraphs('Ring the'))).toBe('Ring the')
  })
})
