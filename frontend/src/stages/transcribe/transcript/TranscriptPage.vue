<script setup lang="ts">
/** The transcript to read and write, with the word lit that is being spoken. */
import { onBeforeUnmount, onMounted, ref, watch, watchEffect } from 'vue'
import { useI18n } from 'vue-i18n'

import { useLitText } from '@/picture/litText'
import { usePlayer } from '@/picture/playerStore'
import { useProject } from '@/session/projectStore'
import { useCommands } from '@/kit/commands/commands'
import { leaveText } from '@/kit/documents'
import { tokensOf } from '@/stages/transcribe/transcript/transcriptDocument'
import { useTranscript } from '@/stages/transcribe/transcript/transcriptStore'

const props = defineProps<{ hearing: boolean }>()

const { t } = useI18n()
const project = useProject()
const player = usePlayer()
const transcript = useTranscript()
const page = ref<HTMLElement | null>(null)
/** Colours of the speakers, by name. */
const colours = new CSSStyleSheet()

onMounted(() => {
  document.adoptedStyleSheets = [...document.adoptedStyleSheets, colours]
  void transcript.open(page.value!, t('transcribe.page'))
})
onBeforeUnmount(() => {
  document.adoptedStyleSheets = document.adoptedStyleSheets.filter((sheet) => sheet !== colours)
  transcript.close()
})

watch(() => project.words, (words) => {
  const element = page.value
  const atEnd = element ? element.scrollHeight - element.scrollTop - element.clientHeight < 160 : false
  transcript.show(words)
  // New words come in sight while they are heard, unless the reader has gone elsewhere.
  if (props.hearing && atEnd && element) element.scrollTop = element.scrollHeight
})
watchEffect(() => transcript.editor?.setEditable(!props.hearing, false))
watchEffect(() =>
  colours.replaceSync(
    (project.project?.speakers ?? [])
      .map(({ name, colour }) => `[data-speaker="${CSS.escape(name)}"] { --speaker: ${colour} }`)
      .join('\n'),
  ),
)

/** How long after its end a word stays lit. */
const LIT_MS = 200

useLitText(page, transcript, (ms) => {
  const word = transcript.spokenAt(ms)
  return word && ms <= word.mark!.attrs.end + LIT_MS ? { from: word.at, to: word.at + word.text.length } : null
})

/** A click on a word puts the playhead there; on a paragraph's time, or a time in the text, it plays from there. */
function clicked(event: MouseEvent) {
  const view = transcript.editor?.view
  if (!view) return
  const paragraph = (event.target as HTMLElement).closest('p')
  if (paragraph && event.target === paragraph && event.clientX < paragraph.getBoundingClientRect().left + 84) {
    const node = view.state.doc.resolve(view.posAtDOM(paragraph, 0)).parent
    const first = tokensOf(node).find((token) => token.mark)
    if (first) {
      player.place(first.mark!.attrs.start)
      void player.play(1)
    }
    return
  }
  const place = view.posAtCoords({ left: event.clientX, top: event.clientY })
  const link = place ? transcript.linkAt(place.pos) : null
  if (link !== null) {
    player.place(link)
    void player.play(1)
    return
  }
  const ms = place ? transcript.timeAt(place.pos) : null
  if (ms !== null && view.state.selection.empty) player.place(ms)
}

const inText = () => transcript.editor?.isFocused ?? false
useCommands([
  { id: 'transcript-write', run: () => transcript.focus() },
  { id: 'transcript-leave', run: () => leaveText(page.value), enabled: inText },
  { id: 'time-link', run: () => transcript.linkTime(), enabled: inText },
  { id: 'style-italic', run: () => transcript.toggleStyle('italic'), enabled: inText },
  { id: 'style-bold', run: () => transcript.toggleStyle('bold'), enabled: inText },
  { id: 'style-underline', run: () => transcript.toggleStyle('underline'), enabled: inText },
  { id: 'leave-out', run: () => transcript.toggleStyle('left_out'), enabled: inText, why: 'text' },
  { id: 'doubtful-next', run: () => void transcript.goToDoubtful(1) },
  { id: 'doubtful-accept', run: () => transcript.accept() },
])

/** Tab goes through the doubtful words; the text is left by Esc. */
function tabbed(event: KeyboardEvent) {
  if (event.key !== 'Tab' || !inText()) return
  event.preventDefault()
  transcript.goToDoubtful(event.shiftKey ? -1 : 1)
}
</script>

<template>
  <div ref="page" class="page" tabindex="0" @click="clicked" @keydown="tabbed" @wheel.passive="player.following = false" />
</template>

<style scoped src="@/kit/textPage.css"></style>

<style scoped>
.page :deep(del) {
  color: var(--soft);
  text-decoration: line-through dotted;
}
.page {
  flex: 1;
}
.page :deep(p) {
  max-width: calc(62ch + 92px);
  padding: 7px 0 7px 92px;
  line-height: 1.5;
  content-visibility: auto;
  contain-intrinsic-size: auto 60px;
}
.page :deep(p)::before {
  top: 11px;
}
/* Room for the name under the time, however short the paragraph is. */
.page :deep(p[data-speaker]) {
  min-height: 50px;
}
.page :deep(p[data-speaker])::after {
  content: attr(data-speaker);
  position: absolute;
  left: 0;
  top: 30px;
  width: 74px;
  overflow: hidden;
  font-size: 12px;
  font-weight: 650;
  line-height: 1.25;
  text-align: right;
  color: color-mix(in srgb, var(--speaker, var(--tide)) 55%, var(--ink));
}
.page :deep(.doubtful) {
  border-bottom: 2px dotted var(--straw-bright);
}
.page :deep(.time-link) {
  color: var(--tide);
  text-decoration: underline;
  cursor: pointer;
}
.page :deep(.very) {
  border-bottom: 2px solid var(--heather);
}
</style>
