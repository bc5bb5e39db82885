import { effectScope, nextTick } from 'vue'
import { describe, expect, test, vi } from 'vitest'

import type { CommandId } from '@/kit/commands/catalogue'
import { dispatch, keysWaitFor, useCommands } from '@/kit/commands/commands'

// There is no document here, so no element has the cursor.
vi.stubGlobal('HTMLElement', class {})

const press = (key: string) => ({ key, target: null, preventDefault() {} }) as unknown as KeyboardEvent

describe('keys', () => {
  test('that are pressed before what they are meant for is there wait for it, in their order', async () => {
    const done: string[] = []
    const scope = effectScope()
    const arrive = (id: CommandId) => scope.run(() => useCommands([{ id, run: () => void done.push(id) }]))
    let there = () => {}
    const arrival = keysWaitFor(new Promise<void>((resolve) => (there = resolve)))
    expect(dispatch(press('h'))).toBe(true)
    dispatch(press('m'))
    expect(done).toEqual([])
    arrive('hear')
    arrive('merge')
    there()
    await arrival
    expect(done).toEqual(['hear', 'merge'])
    scope.stop()
  })

  test('that lead on wait again', async () => {
    const done: string[] = []
    const scope = effectScope()
    const resolvers: (() => void)[] = []
    const going = () => keysWaitFor(new Promise<void>((resolve) => resolvers.push(resolve)))
    scope.run(() => useCommands([
      { id: 'set-out', run: () => void going() },
      { id: 'insert', run: () => void done.push('done') },
    ]))
    const first = going()
    dispatch(press('o'))
    dispatch(press('n'))
    resolvers[0]!()
    await first
    expect(done).toEqual([])
    resolvers[1]!()
    await vi.waitFor(() => expect(done).toEqual(['done']))
    scope.stop()
  })

  test('wait for what the one before them brings, and those that come meanwhile for their turn', async () => {
    const done: string[] = []
    const scope = effectScope()
    const add = (id: CommandId, run: () => void) => scope.run(() => useCommands([{ id, run }]))
    // A part of the page that opens listens to keys once it is drawn.
    add('stick', () => void nextTick(() => add('stick-follow', () => void done.push('followed'))))
    add('style-words', () => void done.push('words'))
    let there = () => {}
    const arrival = keysWaitFor(new Promise<void>((resolve) => (there = resolve)))
    dispatch(press('s'))
    there()
    await Promise.resolve()
    dispatch(press('Enter'))
    await arrival
    await vi.waitFor(() => expect(done).toEqual(['followed']))
    scope.stop()
  })

  test('come through when what they waited for never comes', async () => {
    const done: string[] = []
    const scope = effectScope()
    scope.run(() => useCommands([{ id: 'insert', run: () => void done.push('done') }]))
    const lost = keysWaitFor(Promise.reject(new Error('lost')))
    dispatch(press('n'))
    await expect(lost).rejects.toThrow('lost')
    expect(done).toEqual(['done'])
    scope.stop()
  })
})
