/** All captions as one page of text, kept the same as the track: what is written is sent, and comes back with times. */
import { Editor } from '@tiptap/core'
import type { Node } from '@tiptap/pm/model'
import { type EditorState, TextSelection, type Transaction } from '@tiptap/pm/state'
import { until, useDebounceFn } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { useI18n } from 'vue-i18n'

import { usePlayer } from '@/picture/playerStore'
import { type Caption, openFindings, textOf } from '@/session/captions'
import { useProject } from '@/session/projectStore'
import { useHistory } from '@/session/historyStore'
import { isMarked, marked, styledPlaces, stylesShown } from '@/stages/transcribe/page/shownStyles'
import type { Target } from '@/styling/stylingStore'
import { newId, useTrack } from '@/session/tracksStore'
import { dispatch, keysWaitFor } from '@/kit/commands/commands'
import { changeBetween } from '@/kit/documents'
import { oneAtATime } from '@/kit/oneAtATime'
import { firstIndex } from '@/kit/ordered'
import { shortClock } from '@/kit/time'
import { type Block, blocksIn, extensions, paragraph, parsed, type Placed, synchronised, textIn, written } from '@/stages/transcribe/page/pageDocument'

/** Long enough for a burst of typing to be one edit, short enough that its findings come while it is looked at. */
const SENT_AFTER_MS = 350
/** A pause in typing this long begins a new step of undo. */
const NEW_STEP_MS = 1000

export const useWriting = defineStore('writing', () => {
  const { t } = useI18n()
  const track = useTrack()
  const player = usePlayer()
  const editor = shallowRef<Editor | null>(null)
  /** Grows with each change of the document, and of the place in it. */
  const version = ref(0)
  /** The blocks as they were last sent, or shown. */
  let stored: readonly Node[] | null = null
  /** The captions of that: one for each of its blocks that say something. */
  let shown: readonly Caption[] = []
  /** What was written is on its way: captions that are read meanwhile do not have it yet. */
  let underWay = false
  let typedAt = 0
  let gesture = newId()
  const labels = new WeakMap<Caption, Block>()

  const soon = useDebounceFn(() => void send(), SENT_AFTER_MS)
  const nodesIn = (doc: Node) => blocksIn(doc).map(({ node }) => node)
  const said = computed(() => track.captions.filter((caption) => labelled(caption).text))

  const language = () => useProject().trackInfo?.language ?? ''

  function open(element: HTMLElement, label: string) {
    const made = new Editor({
      element,
      extensions: [...extensions, stylesShown],
      injectCSS: false,
      // Until the captions are there, what is written would be taken for all there is.
      editable: track.loaded,
      editorProps: {
        handleKeyDown: (_, event) => dispatch(event),
        clipboardTextParser: (text, place) => parsed(place.doc.type.schema, text),
        attributes: { role: 'textbox', 'aria-multiline': 'true', 'aria-label': label, spellcheck: 'false', 'data-writing': '', lang: language() },
      },
      onUpdate: ({ transaction }) => {
        version.value++
        if (transaction.getMeta('stored')) return
        if (performance.now() - typedAt > NEW_STEP_MS) gesture = newId()
        typedAt = performance.now()
        void soon()
      },
      onSelectionUpdate: () => version.value++,
      onBlur: () => void send(),
    })
    editor.value = made
    show()
  }

  function close() {
    void send()
    editor.value?.destroy()
    editor.value = null
    stored = null
    shown = []
  }

  /** A caption as it stands on the page. Captions are never changed in place, so each is worked out once. */
  function labelled(caption: Caption): Block {
    let block = labels.get(caption)
    if (!block) {
      const rules = [...new Set(openFindings(caption).map(({ rule }) => t(`check.rule.${rule}`)))]
      block = { text: paragraph(textOf(caption)), at: shortClock(caption.in_ms), breaks: rules.join(', ') }
      labels.set(caption, block)
    }
    return block
  }

  /** Shows the captions as they are, unless there is something written that is not sent. */
  function show() {
    const view = editor.value
    if (!view || underWay || (stored && changeBetween(stored, nodesIn(view.state.doc)))) return
    if (track.loaded !== view.isEditable) view.setEditable(track.loaded, false)
    shown = said.value
    const tr = synchronised(view.state.tr, view.schema, shown.map(labelled))
    const styled = styledPlaces(written(tr.doc), shown)
    if (tr.docChanged || styled.length || isMarked(view.state)) {
      view.view.dispatch(marked(tr, styled).setMeta('stored', true))
    }
    stored = nodesIn(view.state.doc)
  }

  /** Sends what was written since it was last sent; ends when all is stored. */
  const send = oneAtATime(drain)

  async function drain() {
    for (;;) {
      const view = editor.value
      const now = view && nodesIn(view.state.doc)
      const change = stored && now && changeBetween(stored, now)
      if (!change) break
      await store(now, change.first, change.kept)
    }
    show()
  }

  async function store(now: readonly Node[], first: number, kept: number) {
    const textsOf = (nodes: readonly Node[]) => nodes.map(textIn).filter(Boolean)
    const before = textsOf(stored!.slice(0, first)).length
    const gone = textsOf(stored!.slice(first, stored!.length - kept))
    const texts = textsOf(now.slice(first, now.length - kept))
    stored = now
    if (gone.join('\n\n') === texts.join('\n\n')) return
    underWay = true
    try {
      await track.write(
        {
          captions: shown.slice(before, before + gone.length).map((caption) => caption.id),
          after: shown[before - 1]?.id ?? null,
          texts,
        },
        gesture,
      )
    } finally {
      underWay = false
    }
    shown = said.value
    const view = editor.value
    if (!view || shown.length === textsOf(now).length) return
    // It was refused, or another window has other captions now: what is stored is what is shown.
    stored = null
    show()
  }

  const blocks = () => (editor.value ? written(editor.value.state.doc) : [])

  const isEmpty = computed(() => (void version.value, editor.value !== null && !blocks().length))

  const inStep = () => shown.length === blocks().length

  /** The block of the caption that is shown at a time. */
  function blockAt(ms: number): Placed | null {
    const index = firstIndex(shown, (caption) => caption.in_ms, ms + 1) - 1
    const caption = shown[index]
    return inStep() && caption && caption.out_ms > ms ? blocks()[index]! : null
  }

  /** The caption at a place of the document. */
  function captionAt(position: number): Caption | null {
    const index = firstIndex(blocks(), ({ at, node }) => at + node.nodeSize, position)
    const block = blocks()[index]
    return inStep() && block && block.at <= position ? shown[index]! : null
  }

  const current = computed(() => {
    void version.value
    void track.captions
    return editor.value ? captionAt(editor.value.state.selection.from) : null
  })

  /** Where work goes on: the cursor in the caption at the playhead, or in the next one. */
  async function focus() {
    await keysWaitFor(until(() => track.loaded).toBe(true, { timeout: 5000 }))
    const view = editor.value
    if (!view) return
    const index = firstIndex(shown, (caption) => caption.out_ms, player.timeMs + 1)
    const block = blocks()[Math.min(index, blocks().length - 1)]
    if (block) view.view.dispatch(view.state.tr.setSelection(TextSelection.create(view.state.doc, block.at + 1)).scrollIntoView())
    view.view.focus()
  }

  /** Makes a boundary at the cursor, or takes one away. */
  function boundary(change: (state: EditorState) => Transaction | null) {
    const view = editor.value
    const tr = view && change(view.state)
    if (tr) view.view.dispatch(tr.scrollIntoView())
  }

  function hear() {
    if (current.value) player.hear(current.value.in_ms, current.value.out_ms)
  }

  /** The caption at the cursor, and the words of it that are selected, to be styled. */
  function target(): Target | null {
    const view = editor.value?.view
    const caption = current.value
    if (!view?.hasFocus() || !caption) return null
    const { from, to } = view.state.selection
    const index = firstIndex(blocks(), ({ at, node }) => at + node.nodeSize, from)
    const { at, node } = blocks()[index]!
    // As it will be stored, without what is written around lines.
    const stored = (position: number) => paragraph(`${node.textContent.slice(0, position - at - 1)}.`).length - 1
    const inside = to > from && to <= at + node.nodeSize - 1
    return {
      captions: [caption.id],
      range: inside ? { from: stored(from), to: stored(to) } : null,
      back: () => view.focus(),
    }
  }

  useHistory().writers.add(send)
  return { editor, version, current, isEmpty, open, close, show, send, target, blockAt, captionAt, focus, hear, boundary }
})
