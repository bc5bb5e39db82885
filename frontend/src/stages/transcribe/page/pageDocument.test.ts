import { getSchema } from '@tiptap/core'
import { EditorState, TextSelection, type Transaction } from '@tiptap/pm/state'
import { describe, expect, it } from 'vitest'

import {
  type Block, blockOf, blocksIn, documentOf, extensions, joinedBack, joinedOn, lineBroken, parsed, parted, synchronised, textIn, unparted, written,
} from '@/stages/transcribe/page/pageDocument'

const schema = getSchema(extensions)
const block = (text: string, at = '0:01', breaks = ''): Block => ({ text, at, breaks })
let state: EditorState

function page(...texts: string[]) {
  state = EditorState.create({ doc: documentOf(schema, texts.map((text) => blockOf(schema, block(text)))) })
  return state
}
const texts = () => blocksIn(state.doc).map(({ node }) => node.textContent)
/** The cursor before a character of a block. */
function at(index: number, offset: number) {
  state = state.apply(state.tr.setSelection(TextSelection.create(state.doc, blocksIn(state.doc)[index]!.at + 1 + offset)))
}
const press = (key: (state: EditorState) => Transaction | null) => (state = state.apply(key(state)!))

describe('Enter', () => {
  it('breaks the line, and makes no empty one', () => {
    page('The fog bell', 'rang')
    at(0, 8)
    press(lineBroken)
    press(lineBroken)
    expect(texts()).toEqual(['The fog \nbell', 'rang'])
    at(0, 0)
    press(lineBroken)
    expect(texts()).toEqual(['The fog \nbell', 'rang'])
  })
})

describe('a boundary', () => {
  it('parts a caption where the cursor is, in place of a line break', () => {
    page('The fog\nbell', 'rang')
    at(0, 8)
    press(parted)
    expect(texts()).toEqual(['The fog', 'bell', 'rang'])
    at(1, 2)
    press(parted)
    expect(texts()).toEqual(['The fog', 'be', 'll', 'rang'])
  })
  it('begins a caption at the end, and before the beginning', () => {
    page('one')
    at(0, 3)
    press(parted)
    expect(texts()).toEqual(['one', ''])
    at(0, 0)
    press(parted)
    expect(texts()).toEqual(['', 'one', ''])
  })
  it('is taken away from wherever the cursor is in the caption', () => {
    page('one', 'two')
    at(1, 2)
    press(unparted)
    expect(texts()).toEqual(['one\ntwo'])
    expect(unparted(state)).toBe(null)
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
    state.doc.check()
    return blocksIn(state.doc).map(({ node }) => node)
  }
  it('leave what is the same, and empty blocks beside it', () => {
    const before = blocksIn(page('one', '', 'two', 'three').doc).map(({ node }) => node)
    const after = shown(block('one'), block('two'), block('3'))
    expect(texts()).toEqual(['one', '', 'two', '3'])
    expect(after[0]).toBe(before[0])
    expect(after[2]).toBe(before[2])
  })
  it('come in, go, and say anew when they are and what they break', () => {
    page('one', 'two')
    expect(shown(block('one', '0:02', 'gap'), block('and'), block('two'))[0]!.attrs).toEqual({ at: '0:02', breaks: 'gap' })
    expect(texts()).toEqual(['one', 'and', 'two'])
    shown()
    expect(texts()).toEqual([''])
    shown(block('back'))
    expect(texts()).toEqual(['back'])
  })
  it('go over many sheets as over one, and the cursor stays where it is', () => {
    const many = Array.from({ length: 200 }, (_, i) => `caption ${i}`)
    page(...many)
    at(70, 3)
    const others = many.map((text, i) => block(i > 60 && i < 68 ? `other ${i}` : text))
    shown(...others.slice(0, 150))
    expect(texts()).toEqual(others.slice(0, 150).map(({ text }) => text))
    expect(state.selection.$from.parent.textContent).toBe('caption 70')
    expect(state.selection.$from.parentOffset).toBe(3)
    at(64, 0)
    press(joinedBack)
    at(63, 17)
    press(parted)
    expect(texts()[63]).toBe('other 63\nother 64')
    expect(texts()).toHaveLength(150)
    shown()
    expect(texts()).toEqual([''])
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
