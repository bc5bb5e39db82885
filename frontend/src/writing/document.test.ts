import { getSchema } from '@tiptap/core'
import { EditorState, TextSelection, type Transaction } from '@tiptap/pm/state'
import { describe, expect, it } from 'vitest'

import { type Block, blockOf, entered, extensions, joinedBack, joinedOn, parsed, synchronised, textIn, written } from '@/writing/document'

const schema = getSchema(extensions)
const block = (text: string, at = '0:01', breaks = ''): Block => ({ text, at, breaks })
let state: EditorState

function page(...texts: string[]) {
  const doc = schema.nodes.doc!.create(null, texts.map((text) => blockOf(schema, block(text))))
  state = EditorState.create({ doc })
  return state
}
const texts = () => Array.from({ length: state.doc.childCount }, (_, i) => state.doc.child(i).textContent)
/** The cursor before a character of a block. */
function at(index: number, offset: number) {
  const start = state.doc.resolve(0).posAtIndex(index) + 1
  state = state.apply(state.tr.setSelection(TextSelection.create(state.doc, start + offset)))
}
const press = (key: (state: EditorState) => Transaction | null) => (state = state.apply(key(state)!))

describe('Enter', () => {
  it('breaks the line, and on the empty line begins a caption', () => {
    page('The fog bell', 'rang')
    at(0, 8)
    press(entered)
    expect(texts()).toEqual(['The fog \nbell', 'rang'])
    press(entered)
    expect(texts()).toEqual(['The fog ', 'bell', 'rang'])
  })
  it('begins a caption at the end, and before the beginning', () => {
    page('one')
    at(0, 3)
    press(entered)
    press(entered)
    expect(texts()).toEqual(['one', ''])
    at(0, 0)
    press(entered)
    expect(texts()).toEqual(['', 'one', ''])
  })
})

describe('what is joined', () => {
  it('stays on lines of its own', () => {
    page('one', 'two')
    at(1, 0)
    press(joinedBack)
    expect(texts()).toEqual(['one\ntwo'])
    press(joinedBack)
    expect(texts()).toEqual(['one two'])
  })
  it('is joined from before as from behind', () => {
    page('one', 'two', '')
    at(0, 3)
    press(joinedOn)
    expect(texts()).toEqual(['one\ntwo', ''])
    at(1, 0)
    press(joinedBack)
    expect(texts()).toEqual(['one\ntwo'])
  })
})

describe('captions from the track', () => {
  const shown = (...captions: Block[]) => {
    state = state.apply(synchronised(state.tr, schema, captions))
    return state.doc
  }
  it('leave what is the same, and empty blocks beside it', () => {
    const before = page('one', '', 'two', 'three').doc
    const after = shown(block('one'), block('two'), block('3'))
    expect(texts()).toEqual(['one', '', 'two', '3'])
    expect(after.child(0)).toBe(before.child(0))
    expect(after.child(2)).toBe(before.child(2))
  })
  it('come in, go, and say anew when they are and what they break', () => {
    page('one', 'two')
    expect(shown(block('one', '0:02', 'gap'), block('and'), block('two')).child(0).attrs).toEqual({ at: '0:02', breaks: 'gap' })
    expect(texts()).toEqual(['one', 'and', 'two'])
    shown()
    expect(texts()).toEqual([''])
    shown(block('back'))
    expect(texts()).toEqual(['back'])
  })
  it('stay where they are while a space is typed behind them', () => {
    page('one ', 'two')
    shown(block('one'), block('two'))
    expect(texts()).toEqual(['one ', 'two'])
  })
})

it('pasted text is parted at its blank lines', () => {
  page('')
  const slice = parsed(schema, 'one\r\ntwo\r\n \r\nthree')
  expect(slice.content.content.map((node) => textIn(node))).toEqual(['one\ntwo', 'three'])
  expect(written(state.doc)).toEqual([])
})
