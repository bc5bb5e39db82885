/**
 * A track's captions as one page of text: a block each, with a drawn rule between them.
 *
 * Blocks are gathered in sheets, so that the browser keeps account of some hundred of those that are
 * out of sight and not of ten thousand blocks; a reader sees none of it.
 */
import { Extension, Node as BlockType, type Extensions } from '@tiptap/core'
import Document from '@tiptap/extension-document'
import Text from '@tiptap/extension-text'
import { Fragment, type Node, type Schema, Slice } from '@tiptap/pm/model'
import { type EditorState, TextSelection, type Transaction } from '@tiptap/pm/state'

const SHEET = 64

export interface Placed {
  node: Node
  /** Position of the block in the document. */
  at: number
}

export interface Block {
  text: string
  /** When it comes in, as it is written beside it. */
  at: string
  /** The rules that it breaks, as they are written beside it. */
  breaks: string
}

const caption = BlockType.create({
  name: 'caption',
  content: 'text*',
  whitespace: 'pre',
  addAttributes: () => ({
    at: { default: '', renderHTML: ({ at }) => ({ 'data-at': at }) },
    breaks: { default: '', renderHTML: ({ breaks }) => (breaks ? { 'data-breaks': breaks } : {}) },
  }),
  parseHTML: () => [{ tag: 'p', preserveWhitespace: 'full' as const }],
  renderHTML: ({ HTMLAttributes }) => ['p', { dir: 'auto', ...HTMLAttributes }, 0],
})

const sheet = BlockType.create({
  name: 'sheet',
  content: 'caption+',
  renderHTML: () => ['div', { class: 'sheet' }, 0],
})

/** Enter breaks a line; what is joined stays apart by a line or a space. */
const breaks = Extension.create({
  name: 'breaks',
  addKeyboardShortcuts() {
    const run = (change: (state: EditorState) => Transaction | null) => () => {
      const tr = change(this.editor.state)
      if (tr) this.editor.view.dispatch(tr.scrollIntoView())
      return tr !== null
    }
    return { Enter: run(lineBroken), 'Shift-Enter': run(lineBroken), Backspace: run(joinedBack), Delete: run(joinedOn) }
  },
})

export const extensions: Extensions = [Document.extend({ content: 'sheet+' }), sheet, caption, Text, breaks]

const texts = new WeakMap<Node, string>()

/** The text of one caption as it is stored: no blank line, nothing around a line. */
export const paragraph = (text: string) => text.split('\n').map((line) => line.trim()).filter(Boolean).join('\n')

/** What a block says. */
export function textIn(node: Node): string {
  let text = texts.get(node)
  if (text === undefined) {
    text = paragraph(node.textContent)
    texts.set(node, text)
  }
  return text
}

export function blockOf(schema: Schema, { text, at, breaks }: Block): Node {
  return schema.nodes.caption!.create({ at, breaks }, text ? schema.text(text) : null)
}

/** Blocks as a document. */
export function documentOf(schema: Schema, blocks: readonly Node[]): Node {
  return schema.nodes.doc!.create(null, sheetsOf(schema, blocks))
}

function sheetsOf(schema: Schema, blocks: readonly Node[]): Node[] {
  const own = blocks.length ? blocks : [blockOf(schema, { text: '', at: '', breaks: '' })]
  return Array.from({ length: Math.ceil(own.length / SHEET) }, (_, i) =>
    schema.nodes.sheet!.create(null, own.slice(i * SHEET, (i + 1) * SHEET)),
  )
}

/** All blocks, in their order. */
export function blocksIn(doc: Node): Placed[] {
  const found: Placed[] = []
  doc.forEach((own, start) => own.forEach((node, at) => found.push({ node, at: start + 1 + at })))
  return found
}

const known = new WeakMap<Node, readonly Placed[]>()

/** The blocks that say something: one for each caption. */
export function written(doc: Node): readonly Placed[] {
  let found = known.get(doc)
  if (!found) {
    found = blocksIn(doc).filter(({ node }) => textIn(node))
    known.set(doc, found)
  }
  return found
}

/** The document with these captions on it; blocks that say the same stay, and so do empty ones beside them. */
export function synchronised(tr: Transaction, schema: Schema, captions: readonly Block[]): Transaction {
  const old = written(tr.doc)
  const least = Math.min(old.length, captions.length)
  const same = (block: Placed | undefined, caption: Block | undefined) => textIn(block!.node) === caption!.text
  let head = 0
  while (head < least && same(old[head], captions[head])) head++
  let tail = 0
  while (tail < least - head && same(old.at(-1 - tail), captions.at(-1 - tail))) tail++
  // From the end on, so that what comes before stays in its place.
  for (let i = 1; i <= tail; i++) labelled(tr, old.at(-i)!, captions.at(-i)!)
  const gone = old.slice(head, old.length - tail)
  const put = captions.slice(head, captions.length - tail).map((block) => blockOf(schema, block))
  if (!old.length) tr.replaceWith(0, tr.doc.content.size, sheetsOf(schema, put))
  else if (gone.length || put.length) exchanged(tr, schema, old[head - 1], gone, put)
  for (let i = head - 1; i >= 0; i--) labelled(tr, old[i]!, captions[i]!)
  return tr
}

/** Puts blocks in the place of others, or behind one. */
function exchanged(tr: Transaction, schema: Schema, before: Placed | undefined, gone: readonly Placed[], put: readonly Node[]) {
  const from = gone[0]?.at ?? (before ? before.at + before.node.nodeSize : 1)
  const last = gone.at(-1)
  const to = last ? last.at + last.node.nodeSize : from
  const [start, end] = [tr.doc.resolve(from), tr.doc.resolve(to)]
  if (start.sameParent(end) && put.length + start.parent.childCount > gone.length && put.length < SHEET) {
    tr.replaceWith(from, to, put)
    return
  }
  // Over several sheets, those are made anew.
  const [sheetsFrom, sheetsTo] = [start.before(1), end.after(1)]
  const around = blocksIn(tr.doc).filter(({ at }) => at > sheetsFrom && at < sheetsTo)
  const nodesIn = (placed: Placed[]) => placed.map(({ node }) => node)
  const own = [...nodesIn(around.filter(({ at }) => at < from)), ...put, ...nodesIn(around.filter(({ at }) => at >= to))]
  const { $from } = tr.selection
  const written = $from.depth === 2 ? $from.parent : null
  const index = blocksIn(tr.doc).findIndex(({ node }) => node === written)
  tr.replaceWith(sheetsFrom, sheetsTo, own.length || sheetsTo - sheetsFrom === tr.doc.content.size ? sheetsOf(schema, own) : [])
  const now = blocksIn(tr.doc)
  const again = now.find(({ node }) => node === written) ?? now[index]
  if (again) tr.setSelection(TextSelection.create(tr.doc, again.at + 1 + Math.min($from.parentOffset, again.node.content.size)))
}

function labelled(tr: Transaction, { node, at }: Placed, { at: shown, breaks }: Block) {
  if (node.attrs.at !== shown) tr.setNodeAttribute(at, 'at', shown)
  if (node.attrs.breaks !== breaks) tr.setNodeAttribute(at, 'breaks', breaks)
}

/** Pasted text, parted where it has blank lines. */
export function parsed(schema: Schema, text: string): Slice {
  const blocks = text.replaceAll('\r\n', '\n').split(/\n[^\S\n]*\n\s*/)
  const nodes = blocks.map((block) => blockOf(schema, { text: block, at: '', breaks: '' }))
  return new Slice(Fragment.from(nodes), 1, 1)
}

/** Breaks the line at the cursor, but where a line would be empty. */
export function lineBroken({ tr, schema }: EditorState): Transaction {
  tr.deleteSelection()
  const { $from, from } = tr.selection
  const text = $from.parent.textContent
  const [before, after] = [text.slice(0, $from.parentOffset), text.slice($from.parentOffset)]
  return before.trim() && !before.endsWith('\n') && !after.startsWith('\n') ? tr.insert(from, schema.text('\n')) : tr
}

/** A boundary at the cursor: what stands behind it is another caption. A line break there is not wanted any more. */
export function parted({ tr }: EditorState): Transaction {
  tr.deleteSelection()
  const { $from, from } = tr.selection
  const text = $from.parent.textContent
  const start = text[$from.parentOffset - 1] === '\n' ? from - 1 : from
  const end = text[$from.parentOffset] === '\n' ? from + 1 : from
  if (end > start) tr.delete(start, end)
  return tr.split(start)
}

/** Takes away the boundary before the caption that the cursor is in; null before the first. */
export function unparted({ tr, selection, schema }: EditorState): Transaction | null {
  const { $from } = selection
  const from = $from.start()
  if ($from.index(1)) return joined(tr, schema, $from.before(2) - 1, from)
  return $from.index(0) ? joined(tr, schema, $from.before(1) - 2, from) : null
}

/** Takes back the break before the cursor; null leaves a single letter to the browser. */
export function joinedBack({ tr, selection, schema }: EditorState): Transaction | null {
  const { $from, from, empty } = selection
  if (!empty) return null
  if ($from.parentOffset > 0) return brokenLine(tr, schema, from - 1)
  if ($from.index(1)) return joined(tr, schema, $from.before(2) - 1, from)
  return $from.index(0) ? joined(tr, schema, $from.before(1) - 2, from) : null
}

/** Takes away the break behind the cursor. */
export function joinedOn({ tr, selection, schema, doc }: EditorState): Transaction | null {
  const { $from, from, empty } = selection
  if (!empty) return null
  if ($from.parentOffset < $from.parent.content.size) return brokenLine(tr, schema, from)
  if ($from.index(1) + 1 < $from.node(1).childCount) return joined(tr, schema, from, $from.after(2) + 1)
  return $from.index(0) + 1 < doc.childCount ? joined(tr, schema, from, $from.after(1) + 2) : null
}

/** Takes a line break away, so that the words beside it stay two. */
function brokenLine(tr: Transaction, schema: Schema, at: number): Transaction | null {
  const around = tr.doc.textBetween(Math.max(at - 1, 0), Math.min(at + 2, tr.doc.content.size), ' ')
  if (!/^\S\n\S$/.test(around)) return null
  tr.replaceWith(at, at + 1, schema.text(' '))
  return tr.setSelection(TextSelection.create(tr.doc, at))
}

/** Makes one of two blocks, each on lines of its own. */
function joined(tr: Transaction, schema: Schema, end: number, start: number): Transaction {
  const bothSay = tr.doc.resolve(end).parent.content.size && tr.doc.resolve(start).parent.content.size
  tr.delete(end, start)
  if (bothSay) tr.insert(end, schema.text('\n'))
  return tr.setSelection(TextSelection.create(tr.doc, end + (bothSay ? 1 : 0)))
}
