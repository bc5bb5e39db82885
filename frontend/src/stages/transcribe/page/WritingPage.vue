<script setup lang="ts">
/** All captions as one page of text: a blank line parts them, and typing moves words across. */
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import { useLitText } from '@/picture/litText'
import { usePlayer } from '@/picture/playerStore'
import { openFindings } from '@/session/captions'
import { useTrack } from '@/session/tracksStore'
import { useStyling } from '@/styling/stylingStore'
import KeyCap from '@/kit/commands/KeyCap.vue'
import { parted, unparted } from '@/stages/transcribe/page/pageDocument'
import { useCommands } from '@/kit/commands/commands'
import { leaveText } from '@/kit/documents'
import { seconds, shortClock } from '@/kit/time'
import { useWriting } from '@/stages/transcribe/page/writingStore'
import BesideFilm from '@/kit/BesideFilm.vue'

const { t } = useI18n()
const track = useTrack()
const player = usePlayer()
const writing = useWriting()
const page = ref<HTMLElement | null>(null)

onMounted(() => {
  writing.open(page.value!, t('writing.page'))
})
onBeforeUnmount(writing.close)
onBeforeUnmount(useStyling().addPage(writing.target))
watch([() => track.captions, () => track.loaded], () => writing.show())

const now = computed(() => writing.current)
const findings = computed(() => (now.value ? openFindings(now.value) : []))

useLitText(page, writing, (ms) => {
  const block = writing.blockAt(ms)
  return block && { from: block.at + 1, to: block.at + block.node.nodeSize - 1 }
})

/** A click on a caption puts the playhead at its in; on its time, it plays from there. */
function clicked(event: MouseEvent) {
  const view = writing.editor?.view
  const block = (event.target as HTMLElement).closest('p')
  if (!view || !block) return
  const caption = writing.captionAt(view.posAtDOM(block, 0))
  if (!caption || !view.state.selection.empty) return
  player.place(caption.in_ms)
  if (event.target === block && event.clientX < block.getBoundingClientRect().left + 84) void player.play(1)
}

const inText = () => writing.editor?.isFocused ?? false
useCommands([
  { id: 'writing-write', run: () => writing.focus() },
  { id: 'writing-leave', run: () => leaveText(page.value), enabled: inText },
  { id: 'boundary-make', run: () => writing.boundary(parted), enabled: inText, why: 'text' },
  { id: 'boundary-take', run: () => writing.boundary(unparted), enabled: inText, why: 'text' },
  { id: 'writing-hear', run: () => writing.hear(), enabled: () => now.value !== null },
])
</script>

<template>
  <div class="around">
    <div ref="page" class="page" tabindex="0" @click="clicked" @wheel.passive="player.following = false" />
    <p v-if="writing.isEmpty" class="empty soft">{{ t('writing.empty') }}</p>
  </div>
  <BesideFilm>
    <section class="facts" data-facts>
      <template v-if="now">
        <h3 class="time">{{ shortClock(now.in_ms) }} → {{ shortClock(now.out_ms) }}</h3>
        <p class="soft">
          {{ t('writing.facts', { length: seconds(now.out_ms - now.in_ms), speed: now.measures.reading_speed.toFixed(1), line: now.measures.longest_line }) }}
        </p>
        <ul v-if="findings.length">
          <li v-for="finding in findings" :key="finding.rule" :class="finding.weight">{{ t(`check.rule.${finding.rule}`) }}</li>
        </ul>
      </template>
      <p v-else class="soft">{{ t('writing.nowhere') }}</p>
      <dl class="soft">
        <dt><kbd>Enter</kbd></dt><dd>{{ t('writing.hint.line') }}</dd>
        <dt><KeyCap command="boundary-make" in-text /></dt><dd>{{ t('writing.hint.caption') }}</dd>
        <dt><KeyCap command="boundary-take" in-text /></dt><dd>{{ t('writing.hint.join') }}</dd>
      </dl>
    </section>
  </BesideFilm>
</template>

<style scoped src="@/kit/textPage.css"></style>

<style scoped>
.around {
  position: relative;
  flex: 1;
  min-height: 0;
}
.empty {
  position: absolute;
  top: 14px;
  left: 116px;
  margin: 0;
  font-size: 17px;
  pointer-events: none;
}
.page {
  height: 100%;
}
.page :deep(p) {
  padding: 7px 150px 7px 92px;
  line-height: 1.45;
}
/* The boundary of a caption, with its time. */
.page :deep(.sheet:not(:first-child) > p:first-child),
.page :deep(p + p) {
  border-top: 1px solid var(--line);
}
.page :deep(.sheet) {
  content-visibility: auto;
  contain-intrinsic-size: auto 3900px;
}
.page :deep(p)::before {
  top: 10px;
}
.page :deep(p[data-breaks])::after {
  content: attr(data-breaks);
  position: absolute;
  right: 0;
  top: 9px;
  width: 140px;
  font-size: 12px;
  line-height: 1.3;
  color: var(--heather);
}
.facts {
  display: grid;
  gap: 8px;
  padding: 14px 16px;
  font-size: 13px;
}
.facts h3 {
  margin: 0;
  font-size: 13px;
  font-weight: 600;
}
.facts p,
.facts ul {
  margin: 0;
}
.facts ul {
  padding: 0;
  list-style: none;
  color: var(--heather);
}
.facts dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 6px 10px;
  margin: 10px 0 0;
}
.facts dd {
  margin: 0;
}
</style>
