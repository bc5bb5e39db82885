import { beforeEach, expect, test, vi } from 'vitest'

import { CaptionOverlay } from '@/picture/captionOverlay'

const { deeds } = vi.hoisted(() => ({ deeds: [] as string[] }))
/** Notes what the renderer is asked to do; as the real one, it draws what it drew last when its box changed. */
vi.mock('jassub', () => ({
  default: class {
    ready = Promise.resolve()
    renderer = { setTrack: async (script: string) => void deeds.push(`lines ${script}`), addFonts: async () => undefined }
    resize = async () => void deeds.push('box drawn')
    manualRender = async ({ mediaTime }: { mediaTime: number }) => void deeds.push(`drawn ${mediaTime}`)
    destroy = async () => undefined
  },
}))
beforeEach(() => void deeds.splice(0))

const begun = () => new CaptionOverlay({} as HTMLCanvasElement, '')
const at = (mediaTime: number, height = 720) => ({ mediaTime, width: 1280, height })

test('lines, box and moment that are told in one breath are drawn once', async () => {
  const overlay = begun()
  await Promise.all([overlay.put('a', []), overlay.resized(), overlay.show(at(1))])
  expect(deeds).toEqual(['lines a', 'drawn 1'])
})

test('lines that are read before there is a moment are not read again', async () => {
  const overlay = begun()
  await overlay.put('a', [])
  await Promise.all([overlay.put('a', []), overlay.resized(), overlay.show(at(1))])
  expect(deeds).toEqual(['lines a', 'drawn 1'])
})

test('the same moment in another box is drawn by taking its measure', async () => {
  const overlay = begun()
  await overlay.show(at(1))
  await overlay.resized()
  await Promise.all([overlay.put('b', []), overlay.resized(), overlay.show(at(1))])
  expect(deeds).toEqual(['drawn 1', 'box drawn', 'lines b', 'box drawn'])
})

test('another moment in another box is drawn, and one of a picture of another size takes the measure by itself', async () => {
  const overlay = begun()
  await overlay.show(at(1))
  await Promise.all([overlay.resized(), overlay.show(at(2))])
  await Promise.all([overlay.resized(), overlay.show(at(3, 900))])
  expect(deeds).toEqual(['drawn 1', 'box drawn', 'drawn 2', 'drawn 3'])
})

test('of moments that come while one is drawn the newest is drawn', async () => {
  const overlay = begun()
  await Promise.all([1, 2, 3].map((time) => overlay.show(at(time))))
  await overlay.show(at(4))
  expect(deeds).toEqual(['drawn 3', 'drawn 4'])
})

test('what stands there is not drawn again', async () => {
  const overlay = begun()
  const all = () => Promise.all([overlay.put('a', []), overlay.show(at(1))])
  await all()
  await all()
  await overlay.show(at(2))
  expect(deeds).toEqual(['lines a', 'drawn 1', 'drawn 2'])
})

test('what stood in a box that was taken away is drawn again', async () => {
  const overlay = begun()
  await overlay.show(at(1))
  overlay.loseBox()
  await Promise.all([overlay.put('', []), overlay.show(at(1))])
  expect(deeds).toEqual(['drawn 1', 'box drawn'])
})
