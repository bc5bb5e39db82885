import { beforeEach, describe, expect, test } from 'vitest'

import { type CommandId, DECLARED } from '@/kit/commands/catalogue'
import {
  alsoOn, exportedKeys, firstConflict, giveKey, importKeys, keyOf, keysOf, resetAllKeys, resetKeys, takeKey, takenFrom, unfit,
} from '@/kit/commands/keymap'
import { keyName } from '@/kit/commands/keys'
import en from '@/kit/locales/en.json'

beforeEach(resetAllKeys)

/** A source of numbers that are the same in each run. */
function dice(seed: number) {
  return (below: number) => {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0
    return seed % below
  }
}

describe('the catalogue', () => {
  test('has words for every command and area', () => {
    for (const { id, area } of DECLARED.values()) {
      expect(en.command, id).toHaveProperty(id)
      expect(en.keys.area).toHaveProperty(area)
    }
  })

  test('gives no key to two commands of one area, and none that cannot be pressed', () => {
    expect(firstConflict()).toBeNull()
    for (const { id, keys, text } of DECLARED.values()) {
      for (const key of keys) expect(unfit(key, 'keys'), `${id}: ${key}`).toBeNull()
      // One line is stored by Enter: nothing else is meant by it there.
      for (const key of text) expect(unfit(key, 'text'), `${id}: ${key}`).toBe(id === 'ear-store' ? 'typed' : null)
    }
  })
})

describe('a key', () => {
  test('is taken from the command of the same area that had it', () => {
    expect(takenFrom('split', 'M')).toEqual(['merge'])
    giveKey('split', 'M', 'keys', 'S')
    expect(keysOf('split').keys).toEqual(['M'])
    expect(keysOf('merge')).toEqual({ keys: [], text: ['Alt+M'] })
    expect(keyOf('merge')).toBe('Alt+M')
  })

  test('may mean something else in another area, and it is told which comes first', () => {
    expect(takenFrom('finding-go', 'N')).toEqual([])
    expect(alsoOn('finding-go', 'N').behind).toEqual(['insert'])
    expect(alsoOn('insert', 'G').before).toContain('insert-gap')
  })

  test('that works in text works outside of it too', () => {
    expect(takenFrom('hear', 'Alt+M')).toEqual(['merge'])
  })

  test('is shared by what is never done at the same time', () => {
    giveKey('hear-again', 'Alt+W', 'text', 'Alt+G')
    expect(keysOf('hear-again-take').text).toEqual(['Alt+W'])
    expect(firstConflict()).toBeNull()
  })

  test.each([
    ['Ctrl+T', 'keys', 'kept'],
    ['X', 'text', 'typed'],
    ['Enter', 'text', 'typed'],
    ['Ctrl+C', 'text', 'typed'],
    ['Shift+Ctrl+Z', 'keys', 'no-key'],
    ['Abc', 'keys', 'no-key'],
    ['Alt+X', 'text', null],
    ['F9', 'text', null],
    ['+', 'keys', null],
    ['Ctrl++', 'keys', null],
  ] as const)('%s for %s: %s', (key, slot, why) => expect(unfit(key, slot)).toBe(why))

  test('written with AltGr is the character that it writes', () => {
    const press = { key: '[', ctrlKey: true, altKey: true, getModifierState: () => true } as unknown as KeyboardEvent
    expect(keyName(press)).toBe('[')
  })
})

describe('whatever is given, taken and reset', () => {
  test('no two commands of one area have a key both', () => {
    const ids = [...DECLARED.keys()]
    const pool = ['A', 'B', 'M', 'Enter', 'Escape', 'ArrowDown', 'Alt+M', 'Alt+G', 'Ctrl+Enter', 'F2']
    for (let seed = 1; seed <= 60; seed++) {
      resetAllKeys()
      const roll = dice(seed)
      for (let step = 0; step < 25; step++) {
        const id = ids[roll(ids.length)]!
        const slot = roll(2) ? 'keys' : 'text'
        const own = keysOf(id)[slot]
        const what = roll(4)
        if (what < 2) giveKey(id, pool[roll(pool.length)]!, slot, own.length && roll(2) ? own[roll(own.length)] : undefined)
        else if (what === 2 && own.length) takeKey(id, own[roll(own.length)]!)
        else resetKeys(id)
        expect(firstConflict(), `seed ${seed}, step ${step}`).toBeNull()
      }
    }
  })

  test('resetting all gives the keys of the catalogue', () => {
    giveKey('split', 'M', 'keys', 'S')
    resetAllKeys()
    for (const { id, keys, text, sharesWith } of DECLARED.values()) {
      if (!sharesWith) expect(keysOf(id)).toEqual({ keys, text })
    }
  })

  test('resetting one takes its key back from whatever has it', () => {
    giveKey('split', 'M', 'keys', 'S')
    resetKeys('merge')
    expect(keysOf('merge').keys).toEqual(['M'])
    expect(keysOf('split').keys).toEqual([])
  })
})

describe('a file of keys', () => {
  test('brings the same keys back', () => {
    giveKey('split', 'M', 'keys', 'S')
    const file = exportedKeys()
    resetAllKeys()
    expect(importKeys(file)).toEqual([])
    expect(keysOf('split').keys).toEqual(['M'])
    expect(keysOf('merge').keys).toEqual([])
  })

  const file = (keys: unknown) => JSON.stringify({ 'dunlin-keys': 1, keys })

  test.each([
    ['no JSON', 'keys'],
    ['another file', '{"rows": []}'],
    ['keys that are none', file({ split: { keys: ['Hop'], text: [] } })],
    ['keys that are no list', file({ split: { keys: 'S', text: [] } })],
    ['one key for two', file({ split: { keys: ['M'], text: [] } })],
  ])('that is %s changes nothing', (_, text) => {
    giveKey('hear', 'Z', 'keys', 'H')
    expect(() => importKeys(text)).toThrow()
    expect(keysOf('hear').keys).toEqual(['Z'])
    expect(keysOf('split').keys).toEqual(['S'])
  })

  test('of a later version is taken but for what is not known here', () => {
    expect(importKeys(file({ 'dance-now': { keys: ['D'], text: [] }, split: { keys: ['V'], text: [] } }))).toEqual(['dance-now'])
    expect(keysOf('split' as CommandId).keys).toEqual(['V'])
  })
})
