import { beforeEach, expect, test, vi } from 'vitest'

import { beginSurface, drawOn, endSurfaces, leaveSurface, prepareSurface, takeSurface } from '@/picture/surfaces'

const { begun, deeds } = vi.hoisted(() => ({ begun: { count: 0 }, deeds: [] as string[] }))
vi.mock('@/picture/captionOverlay', () => ({
  CaptionOverlay: class {
    readonly number = ++begun.count
    put = async (script: string) => void deeds.push(`${this.number} put ${script}`)
    show = async ({ width, height }: { width: number; height: number }) => void deeds.push(`${this.number} shown ${width}×${height}`)
    loseBox = () => void deeds.push(`${this.number} left`)
    destroy = () => void deeds.push(`${this.number} ended`)
  },
}))

/** As much of an element as a surface needs, and where it lies. */
class Held {
  style = { cssText: '' }
  within: Held | null = null
  append(child: Held) {
    child.within = this
  }
  appendChild(child: Held) {
    this.append(child)
    return child
  }
  remove() {
    this.within = null
  }
}
vi.stubGlobal('document', { createElement: () => new Held(), body: new Held() })

beforeEach(() => {
  endSurfaces(null)
  begun.count = 0
  deeds.splice(0)
})

test('a surface that was begun is the one that is taken, and the next one is another', () => {
  beginSurface()
  beginSurface()
  const first = takeSurface()
  expect(takeSurface()).not.toBe(first)
  expect(begun.count).toBe(2)
})

test('what will be seen is drawn on the surface that waits, unseen and in its size', () => {
  beginSurface()
  prepareSurface('a', { width: 640, height: 186 })
  expect(deeds).toEqual(['1 put a', '1 shown 640×186'])
  const { canvas } = takeSurface()
  const room = (canvas as unknown as Held).within!
  expect(room.style.cssText).toContain('width: 640px; height: 186px; visibility: hidden')
})

test('nothing is drawn before where no surface waits', () => {
  prepareSurface('a', { width: 640, height: 186 })
  expect(begun.count).toBe(0)
})

test('a surface that is left waits for the next, and a second one that is left ends', () => {
  const [first, second] = [takeSurface(), takeSurface()]
  leaveSurface(first)
  leaveSurface(second)
  expect(deeds).toEqual(['1 left', '2 left', '2 ended'])
  expect(takeSurface()).toBe(first)
  expect((first.canvas as unknown as Held).within).toBeNull()
})

test('to end surfaces ends that in hand and that which waits', () => {
  const first = takeSurface()
  beginSurface()
  endSurfaces(first)
  expect(deeds).toEqual(['1 ended', '2 ended'])
  expect(takeSurface()).not.toBe(first)
})

test('a script is drawn in the size that it is told', async () => {
  await drawOn(takeSurface(), 'b', { width: 100, height: 50 })
  expect(deeds).toEqual(['1 put b', '1 shown 100×50'])
})
