import { expect, test } from 'vitest'

import { speechWithoutCaption } from '@/stages/translate/speechGaps'

const caption = (in_ms: number, out_ms: number) => ({ in_ms, out_ms })
const said = (start_ms: number, end_ms: number) => ({ start_ms, end_ms })

test('what a caption of either side covers is no place to fill', () => {
  const speech = [said(0, 2000), said(3000, 5000), said(8000, 9500)]
  expect(speechWithoutCaption(speech, [[caption(0, 2000)], [caption(2900, 5100)]])).toEqual([said(8000, 9500)])
})

test('the uncovered end of a stretch is one, and a breath is none', () => {
  expect(speechWithoutCaption([said(0, 4000)], [[caption(0, 2500)]])).toEqual([said(2500, 4000)])
  expect(speechWithoutCaption([said(0, 4000)], [[caption(0, 3700)]])).toEqual([])
})

test('stretches with a short pause between them are one place, but not across a caption', () => {
  expect(speechWithoutCaption([said(0, 1000), said(1300, 2000)], [])).toEqual([said(0, 2000)])
  expect(speechWithoutCaption([said(0, 1000), said(1300, 2000)], [[caption(1000, 1300)]])).toEqual([said(0, 1000), said(1300, 2000)])
})
