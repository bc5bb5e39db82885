import { readFileSync } from 'node:fs'

import { expect, test } from 'vitest'

import { partsOf } from '@/stages/about/notices'

test('the notices are shown in parts, with all that they name', () => {
  const text = readFileSync(new URL('../../../../docs/third-party.md', import.meta.url), 'utf8')
  const parts = partsOf(text)
  expect(parts.map(({ title }) => title)).toEqual([
    'Part of the repository and of the wheel', 'Fetched by set-up, and not handed on by this repository', 'If you hand Dunlin on as one bundle',
  ])
  const said = JSON.stringify(parts)
  for (const name of ['Noto Sans', 'libass', 'ffmpeg', 'PyAV', 'Whisper', 'GPL 3']) expect(said).toContain(name)
  expect(parts[2]!.blocks.map(({ kind }) => kind)).toEqual(['text', 'points', 'text'])
})
