/** What is being said, lit on a page of text. */
import type { EditorView } from '@tiptap/pm/view'
import { onBeforeUnmount, onMounted, type Ref, watch } from 'vue'

import { usePlayer } from '@/picture/playerStore'
import { keepInSight, rangeBetween } from '@/kit/documents'

interface Written {
  editor: { view: EditorView } | null
  /** Grows with each change of the text. */
  version: number
}

/** Lights what `said` finds for the playhead's time, by where it begins and ends, and follows it while the film plays. */
export function useLitText(page: Ref<HTMLElement | null>, text: Written, said: (ms: number) => { from: number; to: number } | null) {
  const player = usePlayer()
  /** Drawn by the browser over the text: no node of the page changes while the film plays. */
  const lit = new Highlight()
  onMounted(() => CSS.highlights.set('spoken', lit))
  onBeforeUnmount(() => CSS.highlights.delete('spoken'))
  let now = ''
  watch([() => player.timeMs, () => text.version], ([ms, version]) => {
    const place = said(ms)
    const view = text.editor?.view
    // Most frames say nothing new.
    const next = view && place ? `${version} ${place.from} ${place.to}` : ''
    if (next === now) return
    now = next
    lit.clear()
    if (!view || !place) return
    const range = rangeBetween(view, place.from, place.to)
    lit.add(range)
    if (player.playing && player.following && !view.hasFocus()) keepInSight(page.value!, range)
  })
}
