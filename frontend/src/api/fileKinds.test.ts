import { describe, expect, it } from 'vitest'

import { kindOfFile, languageInName } from '@/api/fileKinds'

describe('what a file is brought in as', () => {
  it.each([
    ['fog.MP4', 'films'], ['fog.en.srt', 'captions'], ['Fog Bell.VTT', 'captions'], ['lines.docx', 'scripts'],
    ['notes.txt', 'scripts'], ['raw.mxf', 'films'], ['no-ending', 'films'], ['a.srt.mkv', 'films'],
  ])('%s', (name, kind) => expect(kindOfFile(name, ['.srt', '.vtt', '.txt'])).toBe(kind))
})

describe('the language in a name', () => {
  it.each([
    ['fog.de.mp4', 'de'], ['fog-pt-BR.srt', 'pt-BR'], ['fog.mp4', null], ['fog.xq.srt', null], ['part.1.mp4', null],
  ])('%s', (name, tag) => expect(languageInName(name)).toBe(tag))
})
