/** The transcript on the page, kept the same as the server's: what was changed is sent, and comes back with times. */
import { Editor } from '@tiptap/core'
import type { Node } from '@tiptap/pm/model'
import { type EditorState, Selection, TextSelection, type Transaction } from '@tiptap/pm/state'
import { useDebounceFn } from '@vueuse/core'
import { defineStore } from 'pinia'
import { ref, shallowRef, watch } from 'vue'

import { Refused, type Word } from '@/api/client'
import { usePlayer } from '@/picture/playerStore'
import { useHistory } from '@/session/historyStore'
import { useProject } from '@/session/projectStore'
import { newId, useTrack } from '@/session/tracksStore'
import { dispatch } from '@/kit/commands/commands'
import { i18n } from '@/kit/i18n'
import { type Change, changeBetween } from '@/kit/documents'
import { oneAtATime } from '@/kit/oneAtATime'
import { cursorIn } from '@/stages/transcribe/transcript/cursor'
import { spokenIn, timeAt, wordAt } from '@/stages/transcribe/transcript/spokenWords'
import { extensions, tokensOf, writtenIn } from '@/stages/transcribe/transcript/transcriptDocument'
import { heardPut, paragraphsReplaced, speakerSet, speakersSet, textPut, timesTaken, wordsPut } from '@/stages/transcribe/transcript/transcriptEdits'
import { movedTo, newWords, paragraphsAfter } from '@/stages/transcribe/transcript/rebasing'

/** Long enough for a burst of typing to be one edit, short enough that nothing is lost. */
const SENT_AFTER_MS = 350
const RETRY_MS = 1500
/** Edits of one place that follow each other as fast are one step of undo. */
const SAME_GESTURE_MS = 1200
const countOf = (nodes: readonly Node[]) => nodes.reduce((sum, node) => sum + tokensOf(node).length, 0)

/** What was sent and not answered yet: it is sent again as it is, so that it is stored once. */
interface Sent {
  doc: Node
  change: Change
  key: string
  gesture: string
}

/** Where the last difference of two documents ends in the second one; null when they are alike. */
function endOfChange(one: Node, other: Node): number | null {
  const start = one.content.findDiffStart(other.content)
  const end = one.content.findDiffEnd(other.content)
  return start === null ? null : Math.max(start, end?.b ?? start)
}

export const useTranscript = defineStore('transcript', () => {
  const project = useProject()
  const player = usePlayer()
  const track = useTrack()
  const editor = shallowRef<Editor | null>(null)
  const saving = ref<'saved' | 'saving' | 'waiting'>('saved')
  /** Why it waits, in words. */
  const problem = ref('')
  /** Words that were written here and refused, and why they were. */
  const left = ref({ words: '', why: '' })
  watch(() => project.project?.id, leave)
  /** The project whose words the document has. */
  let projectId = ''
  let sent: Sent | null = null
  let gesture = { id: '', at: 0, first: -1 }
  /** Grows with each change of the document. */
  const version = ref(0)
  /** Grows with each move of the cursor too, and when it comes or goes. */
  const moves = ref(0)
  /** The document as the server has it. */
  let stored: Node | null = null
  /** The revision of that. */
  let revision = 0
  let shown: readonly Word[] = []
  /** Where in the document the change ends that came last from elsewhere. */
  let changedAt: number | null = null
  let closing: Promise<void> = Promise.resolve()

  const soon = useDebounceFn(() => void send(), SENT_AFTER_MS)

  async function open(element: HTMLElement, label: string) {
    await closing
    if (!element.isConnected) return
    const made = new Editor({
      element,
      extensions,
      injectCSS: false,
      editorProps: {
        // The editor keeps some keys to itself: commands come first.
        handleKeyDown: (_, event) => dispatch(event),
        attributes: { role: 'textbox', 'aria-multiline': 'true', 'aria-label': label, spellcheck: 'false', 'data-transcript': '', lang: project.project?.tracks[0]?.language ?? '' },
      },
      onTransaction: () => void moves.value++,
      onUpdate: ({ transaction }) => {
        version.value++
        if (transaction.getMeta('stored')) return
        saving.value = 'saving'
        void soon()
      },
      onFocus: () => void moves.value++,
      onBlur: () => {
        moves.value++
        void send()
      },
    })
    editor.value = made
    projectId = project.project?.id ?? ''
    show(project.words)
  }

  /** Lets go of the document once all of it is stored; it is opened again no sooner. */
  function close() {
    closing = send().finally(() => {
      editor.value?.destroy()
      editor.value = null
      stored = null
      shown = []
    })
  }

  /** Shows words that came from elsewhere; those that are there already stay as they are. */
  function show(words: readonly Word[]) {
    const view = editor.value
    if (!view || words === shown) return
    // What was written and not yet stored stays; if it is of an older transcript, the server says so.
    if (stored && changeBetween(stored.children, view.state.doc.children)) return
    const before = view.state.doc
    storedAs(view, paragraphsReplaced(view.state, paragraphsAfter(view.schema, stored?.children ?? [], shown, words)))
    changedAt = endOfChange(before, view.state.doc)
    revision = project.wordsRevision
    shown = words
    stored = view.state.doc
  }

  /** Sends what was changed since it was last sent; ends when all is stored. */
  const send = oneAtATime(drain)

  async function drain() {
    for (;;) {
      const view = editor.value
      if (!view) break
      const change = stored ? changeBetween(stored.children, view.state.doc.children) : null
      sent ??= change && { doc: view.state.doc, change, key: newId(), gesture: gestureOf(change) }
      if (!sent) break
      await store(view, sent)
    }
    saving.value = 'saved'
    problem.value = ''
    show(project.words)
  }

  /** The gesture that a change belongs to: the one before, where it goes on at the same place. */
  function gestureOf({ first }: Change): string {
    const now = performance.now()
    const goesOn = gesture.first === first && now - gesture.at < SAME_GESTURE_MS
    gesture = { id: goesOn ? gesture.id : newId(), at: now, first }
    return gesture.id
  }

  /** What was written since the document was stored, as paragraphs and by the words they have. */
  function written(doc: Node, { first, kept }: Change) {
    const before = stored!.children.slice(0, first)
    const gone = stored!.children.slice(first, stored!.childCount - kept)
    const put = doc.children.slice(first, doc.childCount - kept)
    return { first: countOf(before), count: countOf(gone), gone, put }
  }

  async function store(view: Editor, { doc, change, key, gesture: own }: Sent) {
    const { first, count, gone, put } = written(doc, change)
    try {
      const body = { base_revision: revision, first, count, words: put.flatMap(writtenIn), gesture: own }
      const answer = await project.writeWords(projectId, body, key)
      sent = null
      revision = answer.revision
      shown = revision === project.wordsRevision ? project.words : shown.toSpliced(first, count, ...answer.words)
      stored = doc
      if (view.state.doc === doc) {
        storedAs(view, timesTaken(view.state, change.first, put, answer.words))
        stored = view.state.doc
      }
    } catch (why) {
      if (!(why instanceof Refused) || !why.isFinal) {
        // No answer: what was written stays, and is sent again.
        saving.value = 'waiting'
        problem.value = (why as Error).message
        await new Promise((resolve) => setTimeout(resolve, RETRY_MS))
        return
      }
      sent = null
      if (projectId === project.project?.id) {
        await project.loadWords(true)
        rebase(view, why.message)
      } else {
        keepApart(newWords(gone, put), why.message)
        stored = view.state.doc
      }
    }
  }

  /**
   * Goes on from the words as they are now, with what is written here in its place among them, still to be sent.
   * What has no place there any more is kept apart.
   */
  function rebase(view: Editor, why: string) {
    const { doc, schema, selection } = view.state
    const change = stored && changeBetween(stored.children, doc.children)
    if (!stored || !change) return show(project.words)
    const { gone, put } = written(doc, change)
    const theirs = paragraphsAfter(schema, stored.children, shown, project.words)
    const newer = project.wordsRevision > revision
    const at = newer ? movedTo(change.first, gone.length, stored.children, theirs) : null
    if (at === null) {
      const words = newWords(gone, put)
      if (words) keepApart(words, why)
      else track.refusal = why
      storedAs(view, paragraphsReplaced(view.state, theirs))
      stored = view.state.doc
      const here = view.state.doc.resolve(Math.min(selection.from, view.state.doc.content.size))
      view.view.dispatch(view.state.tr.setSelection(Selection.near(here)))
    } else {
      storedAs(view, paragraphsReplaced(view.state, [...theirs.slice(0, at), ...put, ...theirs.slice(at + gone.length)]))
      stored = schema.topNodeType.create(null, theirs as Node[])
    }
    revision = project.wordsRevision
    shown = project.words
  }

  function keepApart(words: string, why: string) {
    left.value = { words: [left.value.words, words].filter(Boolean).join(' … '), why }
  }

  /** Puts the words that were kept apart where the cursor is. */
  function putLeft() {
    const view = editor.value
    if (!view || !left.value.words) return
    view.view.dispatch(textPut(view.state, left.value.words))
    view.view.focus()
    leave()
  }

  function leave() {
    left.value = { words: '', why: '' }
  }

  /** Carries out what is not to be sent, as the server has it already. */
  function storedAs(view: Editor, tr: Transaction) {
    if (tr.docChanged) view.view.dispatch(tr.setMeta('stored', true).setMeta('addToHistory', false))
  }

  /** Carries out an edit of the document, as one step of undo. */
  function edit(made: (state: EditorState) => Transaction) {
    const view = editor.value
    const tr = view && made(view.state)
    if (tr?.docChanged) view!.view.dispatch(tr)
  }

  const doc = () => editor.value?.state.doc
  const inDocument = <T,>(read: (doc: Node) => T, none: T): T => (doc() ? read(doc()!) : none)

  const history = useHistory()
  history.writers.add(send)
  // What was taken back is where work goes on.
  watch(() => history.steps, () => {
    const view = editor.value
    if (!view || history.view !== 'transcript' || changedAt === null) return
    const at = view.state.doc.resolve(Math.min(changedAt, view.state.doc.content.size))
    view.view.dispatch(view.state.tr.setSelection(TextSelection.near(at, -1)).scrollIntoView())
  })
  return {
    editor, saving, problem, left, putLeft, leave, version, moves, open, close, closed: () => closing, show, send,
    spoken: () => inDocument(spokenIn, []),
    spokenAt: (ms: number) => inDocument((own) => wordAt(own, ms), null),
    timeAt: (position: number) => inDocument((own) => timeAt(own, position), null),
    ...cursorIn(editor, player, () => (track.refusal = i18n.global.t('transcribe.noDoubtful'))),
    assign: (speaker: string | null, onwards = false) => edit((state) => speakerSet(state, player.timeMs, speaker, onwards)),
    assignWords: (passages: Parameters<typeof speakersSet>[1]) => edit((state) => speakersSet(state, passages)),
    putWords: (changes: Parameters<typeof wordsPut>[1]) => edit((state) => wordsPut(state, changes)),
    putHeard: (first: number, count: number, heard: readonly Word[]) => edit((state) => heardPut(state, first, count, heard)),
  }
})
