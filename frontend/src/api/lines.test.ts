import { expect, test } from 'vitest'

import { linesOf } from '@/api/lines'

const body = (...parts: string[]) =>
  new ReadableStream<Uint8Array>({
    start(controller) {
      for (const part of parts) controller.enqueue(new TextEncoder().encode(part))
      controller.close()
    },
  })

test('lines are whole wherever the body was parted', async () => {
  for (const parts of [['one\ntwo\n'], ['o', 'ne\nt', 'wo', '\n'], ['one', '\n', 'two\n']]) {
    const lines = []
    for await (const line of linesOf(body(...parts))) lines.push(line)
    expect(lines).toEqual(['one', 'two'])
  }
})
