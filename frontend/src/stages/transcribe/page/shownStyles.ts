/** The styles of words on the page of captions: drawn over its text, which itself has none. */
import { Extension } from '@tiptap/core'
import { type EditorState, Plugin, PluginKey, type Transaction } from '@tiptap/pm/state'
import { Decoration, DecorationSet } from '@tiptap/pm/view'

import { type Caption, textOf } from '@/session/captions'
import { isStyled } from '@/session/spans'
import type { Placed } from '@/stages/transcribe/page/pageDocument'

const key = new PluginKey<DecorationSet>('styles')

export const stylesShown = Extension.create({
  name: 'stylesShown',
  addProseMirrorPlugins: () => [
    new Plugin<DecorationSet>({
      key,
      state: {
        init: () => DecorationSet.empty,
        apply(tr, old) {
          const places = tr.getMeta(key) as Decoration[] | undefined
          return places ? DecorationSet.create(tr.doc, places) : old.map(tr.mapping, tr.doc)
        },
      },
      props: { decorations: (state) => key.getState(state) },
    }),
  ],
})

/** Where words of captions are in a style, in the blocks that say them. */
export function styledPlaces(blocks: readonly Placed[], captions: readonly Caption[]): Decoration[] {
  return captions.flatMap((caption, index) => {
    const block = blocks[index]
    if (!block || !isStyled(caption.spans) || block.node.textContent !== textOf(caption)) return []
    let at = block.at + 1
    return caption.spans.flatMap((span) => {
      const from = at
      at += span.text.length
      const names = (['italic', 'bold', 'underline'] as const).filter((style) => span[style])
      const colour = span.colour ? `color:${span.colour};background:#23201c;border-radius:2px` : ''
      return names.length || colour ? [Decoration.inline(from, at, { class: names.join(' '), style: colour })] : []
    })
  })
}

export const marked = (tr: Transaction, places: Decoration[]) => tr.setMeta(key, places)

export const isMarked = (state: EditorState) => key.getState(state) !== DecorationSet.empty
