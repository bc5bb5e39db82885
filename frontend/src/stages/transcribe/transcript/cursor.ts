/** What is done at the cursor of the transcript. */
import type { Editor } from '@tiptap/core'
import { Selection, TextSelection } from '@tiptap/pm/state'
import type { ShallowRef } from 'vue'

import { shortClock } from '@/kit/time'
import type { usePlayer } from '@/picture/playerStore'
import { endOf, type Spoken, spokenIn, startOf, wordAt, wordsIn } from '@/stages/transcribe/transcript/spokenWords'
import { DOUBTFUL, linkedMs, type Style, tokensOf } from '@/stages/transcribe/transcript/transcriptDocument'
import { textPut } from '@/stages/transcribe/transcript/transcriptEdits'

/** A doubtful word is heard with a little of what is around it. */
const AROUND_MS = 250

/** A word that was not heard may be spoken this long before or after those that were. */
const MISSED_MS = 1000

export function cursorIn(editor: ShallowRef<Editor | null>, player: ReturnType<typeof usePlayer>, noneLeft: () => void) {
  /** Puts the playhead's time into the text: a click on it plays from there. */
  function linkTime() {
    const view = editor.value
    if (!view) return
    view.view.dispatch(textPut(view.state, `[${shortClock(player.timeMs)}]`))
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
    const doubtful = spokenIn(view.state.doc).filter(({ mark, text }) => mark!.attrs.confidence < DOUBTFUL && mark!.attrs.said === text)
    const ahead = direction > 0 ? doubtful.find(({ at }) => at >= to) : doubtful.findLast(({ at }) => at < from)
    // Behind the last it goes on with the first.
    const word = ahead ?? doubtful.at(direction > 0 ? 0 : -1)
    if (!word) {
      noneLeft()
      return false
    }
    select(word.at, word.at + word.text.length)
    player.hear(Math.max(startOf(word) - AROUND_MS, 0), endOf(word) + AROUND_MS)
    return true
  }

  /** Takes the word at the cursor for right, and goes to the next doubtful one. */
  function accept() {
    const view = editor.value
    if (!view) return
    const { from } = view.state.selection
    const word = spokenIn(view.state.doc).findLast(({ at }) => at <= from)
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
    const word = wordAt(view.state.doc, player.timeMs)
    const at = word ? TextSelection.create(view.state.doc, word.at) : Selection.atStart(view.state.doc)
    view.view.dispatch(view.state.tr.setSelection(at).scrollIntoView())
    view.view.focus()
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

  return { linkTime, linkAt, inStyle, toggleStyle, goToDoubtful, accept, select, focus, goToWords, chosen }
}
