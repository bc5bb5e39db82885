/** The transcript on the page, kept the same as the server's: what was changed is sent, and comes back with times. */
import { Editor } from '@tiptap/core'
import type { Node } from '@tiptap/pm/model'
import { Selection, TextSelection } from '@tiptap/pm/state'
import { useDebounceFn } from '@vueuse/core'
import { defineStore } from 'pinia'
import { ref, shallowRef, watch } from 'vue'

import { Refused, type Word } from '@/api/client'
import { usePlayer } from '@/picture/playerStore'
import { useHistory } from '@/session/historyStore'
import { useProject } from '@/session/projectStore'
import { newId, useTrack } from '@/session/tracksStore'
import { dispatch } from '@/kit/commands/commands'
import { type Change, changeBetween } from '@/kit/documents'
import { oneAtATime } from '@/kit/oneAtATime'
import { firstIndex } from '@/kit/ordered'
import { shortClock } from '@/kit/time'
import { DOUBTFUL, extensions, linkedMs, markOf, marksOf, type Style, type Token, tokensOf, writtenIn } from '@/stages/transcribe/transcript/transcriptDocument'
import { movedTo, newWords, paragraphsAfter } from '@/stages/transcribe/transcript/rebasing'

/** Long enough for a burst of typing to be one edit, short enough that nothing is lost. */
const SENT_AFTER_MS = 350
const RETRY_MS = 1500
/** Edits of one place that follow each other as fast are one step of undo. */
const SAME_GESTURE_MS = 1200
/** A doubtful word is heard with a little of what is around it. */
const AROUND_MS = 250

/** A word that was not heard may be spoken this long before or after those that were. */
const MISSED_MS = 1000

const countOf = (nodes: readonly Node[]) => nodes.reduce((sum, node) => sum + tokensOf(node).length, 0)

/** What was sent and not answered yet: it is sent again as it is, so that it is stored once. */
interface Sent {
  doc: Node
  change: Change
  key: string
  gesture: string
}

interface Spoken extends Token {
  /** Position in the document. */
  at: number
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
  let closing: Promise<void> = Promise.resolve()
  let listed: { doc: Node; words: readonly Spoken[] } | null = null

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
        attributes: { role: 'textbox', 'aria-multiline': 'true', 'aria-label': label, spellcheck: 'false', 'data-transcript': '' },
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
      listed = null
    })
  }

  /** Shows words that came from elsewhere; those that are there already stay as they are. */
  function show(words: readonly Word[]) {
    const view = editor.value
    if (!view || words === shown) return
    // What was written and not yet stored stays; if it is of an older transcript, the server says so.
    if (stored && changeBetween(stored.children, view.state.doc.children)) return
    replaceParagraphs(view, paragraphsAfter(view.schema, stored?.children ?? [], shown, words))
    revision = project.wordsRevision
    shown = words
    stored = view.state.doc
  }

  /** Makes these the paragraphs of the document; those that are so already are not touched, nor a cursor in them. */
  function replaceParagraphs(view: Editor, paragraphs: readonly Node[]) {
    const { doc, tr, schema } = view.state
    const parts = paragraphs.length ? paragraphs : [schema.nodes.paragraph!.create()]
    const change = changeBetween(doc.children, parts)
    if (!change) return
    const size = (nodes: readonly Node[]) => nodes.reduce((sum, node) => sum + node.nodeSize, 0)
    const from = size(parts.slice(0, change.first))
    const to = doc.content.size - size(parts.slice(parts.length - change.kept))
    tr.replaceWith(from, to, parts.slice(change.first, parts.length - change.kept))
    view.view.dispatch(tr.setMeta('stored', true).setMeta('addToHistory', false))
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
      if (view.state.doc === doc) takeTimes(view, change.first, put, answer.words)
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
      replaceParagraphs(view, theirs)
      stored = view.state.doc
      const here = view.state.doc.resolve(Math.min(selection.from, view.state.doc.content.size))
      view.view.dispatch(view.state.tr.setSelection(Selection.near(here)))
    } else {
      replaceParagraphs(view, [...theirs.slice(0, at), ...put, ...theirs.slice(at + gone.length)])
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
    putAtCursor(view, left.value.words)
    view.view.focus()
    leave()
  }

  function leave() {
    left.value = { words: '', why: '' }
  }

  /** Marks words with the times that they got. */
  function takeTimes(view: Editor, first: number, put: readonly Node[], words: readonly Word[]) {
    const { tr, schema, doc } = view.state
    let at = doc.children.slice(0, first).reduce((sum, node) => sum + node.nodeSize, 0)
    let index = 0
    for (const node of put) {
      const tokens = tokensOf(node)
      const start = words[index]?.start_ms ?? null
      if (tokens.length && node.attrs.at !== start) tr.setNodeAttribute(at, 'at', start)
      for (const token of tokens) {
        const mark = markOf(schema, words[index++]!)
        if (token.mark?.eq(mark)) continue
        tr.removeMark(at + 1 + token.from, at + 1 + token.to, schema.marks.word).addMark(at + 1 + token.from, at + 1 + token.to, mark)
      }
      at += node.nodeSize
    }
    if (!tr.docChanged) return
    view.view.dispatch(tr.setMeta('stored', true).setMeta('addToHistory', false))
    stored = view.state.doc
  }

  /** All words of a document, in their order. */
  function wordsIn(doc: Node): Spoken[] {
    const words: Spoken[] = []
    doc.forEach((node, offset) => {
      for (const token of tokensOf(node)) words.push({ ...token, at: offset + 1 + token.from })
    })
    return words
  }

  /** All words that have a time, in their order. */
  function spoken(): readonly Spoken[] {
    const doc = editor.value?.state.doc
    if (!doc) return []
    if (listed?.doc !== doc) {
      listed = { doc, words: wordsIn(doc).filter((word) => word.mark) }
    }
    return listed.words
  }

  const startOf = (word: Spoken): number => word.mark!.attrs.start
  const endOf = (word: Spoken): number => word.mark!.attrs.end

  /** The word that is spoken at a time, or was last. */
  function spokenAt(ms: number): Spoken | null {
    const words = spoken()
    return words[firstIndex(words, startOf, ms + 0.5) - 1] ?? null
  }

  /** When the word at a place of the document is spoken; the nearest one before it that knows. */
  function timeAt(position: number): number | null {
    const words = spoken()
    const word = words[firstIndex(words, (candidate) => candidate.at, position + 1) - 1] ?? words[0]
    return word ? startOf(word) : null
  }

  /** Puts the playhead's time into the text: a click on it plays from there. */
  function linkTime() {
    const view = editor.value
    if (!view) return
    putAtCursor(view, `[${shortClock(player.timeMs)}]`)
  }

  /** Puts text in the place of what is selected, apart from the words around it. */
  function putAtCursor(view: Editor, text: string) {
    const { from, to, $from, $to } = view.state.selection
    const apart = (beside: string) => (beside && !/^\s$/.test(beside) ? ' ' : '')
    const before = apart($from.parent.textBetween(Math.max($from.parentOffset - 1, 0), $from.parentOffset))
    const after = apart($to.parent.textBetween($to.parentOffset, Math.min($to.parentOffset + 1, $to.parent.content.size)))
    view.view.dispatch(view.state.tr.replaceWith(from, to, view.schema.text(before + text + after)).scrollIntoView())
  }

  /** The words that are selected, or the one at the cursor. */
  function atCursor(): Spoken[] {
    const view = editor.value
    if (!view) return []
    const { from, to, empty } = view.state.selection
    const own: Spoken[] = []
    view.state.doc.nodesBetween(from, to, (node, offset) => {
      for (const token of tokensOf(node)) {
        const at = offset + 1 + token.from
        const end = at + token.text.length
        if (empty ? at <= from && from <= end : at < to && from < end) own.push({ ...token, at })
      }
      return false
    })
    return own
  }

  const hasStyle = (word: Spoken, style: Style) => word.styles.some(({ type }) => type.name === style)

  /** Whether all words at the cursor are in a style. */
  function inStyle(style: Style): boolean {
    const own = atCursor()
    return own.length > 0 && own.every((word) => hasStyle(word, style))
  }

  /** Puts the words at the cursor into a style, or takes it from them; whole words, as captions have them. */
  function toggleStyle(style: Style) {
    const view = editor.value
    const own = atCursor()
    const first = own[0]
    const last = own.at(-1)
    if (!view || !first || !last) return
    const { tr, schema } = view.state
    const type = schema.marks[style]!
    if (inStyle(style)) tr.removeMark(first.at, last.at + last.text.length, type)
    else tr.addMark(first.at, last.at + last.text.length, type.create())
    view.view.dispatch(tr)
    view.view.focus()
  }

  /** The time that the word at a place of the document points to. */
  function linkAt(position: number): number | null {
    const view = editor.value
    const $at = view?.state.doc.resolve(position)
    const token = $at && tokensOf($at.parent).find(({ from, to }) => from <= $at.parentOffset && $at.parentOffset <= to)
    return token ? linkedMs(token.text) : null
  }

  /** Goes to the next doubtful word, or the one before, and lets it be heard; false when there is none. */
  function goToDoubtful(direction: 1 | -1): boolean {
    const view = editor.value
    if (!view) return false
    const { from, to } = view.state.selection
    const doubtful = spoken().filter(({ mark, text }) => mark!.attrs.confidence < DOUBTFUL && mark!.attrs.said === text)
    const word = direction > 0 ? doubtful.find(({ at }) => at >= to) : doubtful.findLast(({ at }) => at < from)
    if (!word) return false
    select(word.at, word.at + word.text.length)
    player.hear(Math.max(startOf(word) - AROUND_MS, 0), endOf(word) + AROUND_MS)
    return true
  }

  /** Takes the word at the cursor for right, and goes to the next doubtful one. */
  function accept() {
    const view = editor.value
    if (!view) return
    const { from } = view.state.selection
    const word = spoken().findLast(({ at }) => at <= from)
    if (word && from <= word.at + word.text.length) {
      const mark = word.mark!.type.create({ ...word.mark!.attrs, confidence: 1 })
      const to = word.at + word.text.length
      view.view.dispatch(view.state.tr.removeMark(word.at, to, word.mark!.type).addMark(word.at, to, mark))
    }
    goToDoubtful(1)
  }

  function select(from: number, to: number) {
    const view = editor.value!
    view.view.dispatch(view.state.tr.setSelection(TextSelection.create(view.state.doc, from, to)).scrollIntoView())
    view.view.focus()
  }

  /** Where work goes on: the cursor at what is spoken now. */
  function focus() {
    const view = editor.value
    if (!view) return
    const word = spokenAt(player.timeMs)
    const at = word ? TextSelection.create(view.state.doc, word.at) : Selection.atStart(view.state.doc)
    view.view.dispatch(view.state.tr.setSelection(at).scrollIntoView())
    view.view.focus()
  }

  /** Writes in the place of words, by their order in the transcript; as one step of undo. */
  function putWords(changes: readonly { first: number; count: number; put: string }[]) {
    const view = editor.value
    if (!view) return
    const { doc, tr, schema } = view.state
    const places = wordsIn(doc)
    // From the end on, so that what comes before stays in its place.
    for (const { first, count, put } of changes.toSorted((a, b) => b.first - a.first)) {
      const own = places.slice(first, first + count)
      const texts = put.split(' ')
      if (own.length < count) continue
      if (texts.length === count) {
        for (let i = count - 1; i >= 0; i--) {
          const { at, text, mark, styles } = own[i]!
          tr.replaceWith(at, at + text.length, schema.text(texts[i]!, mark ? [mark, ...styles] : styles))
        }
      } else {
        const last = own.at(-1)!
        // As many words as the time of those is shared by.
        tr.replaceWith(own[0]!.at, last.at + last.text.length, schema.text(put))
      }
    }
    if (tr.docChanged) view.view.dispatch(tr)
  }

  /** Selects words by their order in the transcript, and lets them be heard. */
  function goToWords(first: number, count: number) {
    const view = editor.value
    if (!view) return
    const own = wordsIn(view.state.doc).slice(first, first + count)
    const last = own.at(-1)
    if (!last) return
    select(own[0]!.at, last.at + last.text.length)
    const heard = own.filter((word) => word.mark)
    if (heard.length) player.hear(Math.max(startOf(heard[0]!) - AROUND_MS, 0), endOf(heard.at(-1)!) + AROUND_MS)
  }

  /** Says who speaks in the paragraph at the playhead, or from it on until somebody else does. */
  function assign(speaker: string | null, onwards = false) {
    const view = editor.value
    if (!view) return
    const { doc, tr } = view.state
    const here = spokenAt(player.timeMs)?.at ?? 1
    let was: string | null = null
    let goesOn = false
    doc.forEach((node, offset) => {
      const holds = here > offset && here < offset + node.nodeSize
      if (holds) {
        was = node.attrs.speaker
        goesOn = onwards
      } else if (node.attrs.speaker !== was) {
        goesOn = false
      }
      if (holds || goesOn) tr.setNodeAttribute(offset, 'speaker', speaker)
    })
    if (tr.docChanged) view.view.dispatch(tr)
  }

  /** The words that are selected, or else those of the paragraph at the cursor, and the part of the film they take. */
  function chosen(): { first: number; count: number; from_ms: number; to_ms: number } | null {
    const view = editor.value
    if (!view) return null
    const { from, to, $from, empty } = view.state.selection
    const [start, end] = empty ? [$from.start(), $from.end()] : [from, to]
    const words = wordsIn(view.state.doc)
    const first = words.findIndex(({ at, text }) => at + text.length > start)
    const after = words.findLastIndex(({ at }) => at < end) + 1
    const own = words.slice(first, after).filter((word) => word.mark)
    if (first < 0 || !own.length) return null
    const before = words.slice(0, first).findLast((word) => word.mark)
    const next = words.slice(after).find((word) => word.mark)
    return {
      first,
      count: after - first,
      from_ms: Math.max(before ? endOf(before) : 0, startOf(own[0]!) - MISSED_MS),
      to_ms: Math.min(next ? startOf(next) : Infinity, endOf(own.at(-1)!) + MISSED_MS),
    }
  }

  /** Puts words as they were heard again in the place of others; each goes to the paragraph of its time. */
  function putHeard(first: number, count: number, heard: readonly Word[]) {
    const view = editor.value
    if (!view) return
    const { doc, tr, schema } = view.state
    const groups: Spoken[][] = []
    for (const word of wordsIn(doc).slice(first, first + count)) {
      const last = groups.at(-1)
      if (last && doc.resolve(last[0]!.at).sameParent(doc.resolve(word.at))) last.push(word)
      else groups.push([word])
    }
    const starts = groups.map((own) => own.find((word) => word.mark)?.mark!.attrs.start ?? 0)
    // From the end on, so that what comes before stays in its place.
    for (let i = groups.length - 1; i >= 0; i--) {
      const last = groups[i]!.at(-1)!
      const from = i ? starts[i]! : -Infinity
      const to = starts[i + 1] ?? Infinity
      const own = heard.filter(({ start_ms, end_ms }) => (start_ms + end_ms) / 2 >= from && (start_ms + end_ms) / 2 < to)
      const texts = own.flatMap((word, n) => [...(n ? [schema.text(' ')] : []), schema.text(word.text, marksOf(schema, word))])
      tr.replaceWith(groups[i]![0]!.at, last.at + last.text.length, texts)
    }
    if (tr.docChanged) view.view.dispatch(tr)
  }

  /** Says who speaks which words, by their order; a paragraph begins where another does. One step of undo. */
  function assignWords(passages: readonly { first: number; count: number; speaker: string }[]) {
    const view = editor.value
    if (!view) return
    const { doc, tr } = view.state
    const places = wordsIn(doc)
    // From the end on, so that what comes before stays in its place.
    for (let i = passages.length - 1; i >= 0; i--) {
      const { first, speaker } = passages[i]!
      const word = places[first]
      if (!word) continue
      const $word = tr.doc.resolve(word.at)
      const begins = !tr.doc.textBetween($word.start(), word.at).trim()
      if (!begins && speaker === passages[i - 1]?.speaker) continue
      if (begins) {
        tr.setNodeAttribute($word.before(), 'speaker', speaker)
        continue
      }
      tr.delete(word.at - 1, word.at).split(word.at - 1)
      tr.setNodeAttribute(word.at, 'speaker', speaker).setNodeAttribute(word.at, 'at', word.mark?.attrs.start ?? null)
    }
    if (tr.docChanged) view.view.dispatch(tr)
  }

  useHistory().writers.add(send)
  return { editor, saving, problem, left, putLeft, leave, version, moves, open, close, closed: () => closing, show, send, spoken, spokenAt, timeAt, inStyle, toggleStyle, linkTime, linkAt, goToDoubtful, accept, select, focus, assign, assignWords, chosen, putHeard, putWords, goToWords }
})
