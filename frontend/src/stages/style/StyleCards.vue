<script setup lang="ts">
/** The captions as a list, each with the style that it names. A press leaves the keys with the picture. */
import { computed, onMounted, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import { shortClock } from '@/kit/time'
import { usePlayer } from '@/picture/playerStore'
import { isShape, textOf } from '@/session/captions'
import { useProject } from '@/session/projectStore'
import { useTrack } from '@/session/tracksStore'
import { useSelection } from '@/score/selectionStore'

const ROW_PX = 46

const { t } = useI18n()
const track = useTrack()
const project = useProject()
const selection = useSelection()
const player = usePlayer()
const list = ref<{ scrollToIndex: (index: number) => void; $el: HTMLElement } | null>(null)
const colours = computed(() => new Map(project.project?.speakers.map(({ name, colour }) => [name, colour])))

function press(event: MouseEvent, id: string) {
  if (event.shiftKey) selection.extendTo(id)
  else if (event.ctrlKey || event.metaKey) selection.toggle(id)
  else selection.only(id)
}

function go(direction: 1 | -1) {
  const next = selection.beside(direction, player.timeMs)
  if (next) selection.only(next.id)
}

function showCurrent() {
  const index = selection.currentIndex
  const element = list.value?.$el
  if (index < 0 || !element) return
  const top = index * ROW_PX
  if (top < element.scrollTop || top + ROW_PX > element.scrollTop + element.clientHeight) list.value!.scrollToIndex(Math.max(index - 2, 0))
}
watch(() => selection.currentIndex, showCurrent)
onMounted(() => requestAnimationFrame(showCurrent))
</script>

<template>
  <p v-if="track.loaded && !track.captions.length" class="none soft">{{ t('style.noCaptions') }}</p>
  <v-virtual-scroll v-else ref="list" class="cards" :items="[...track.captions]" :item-height="ROW_PX" role="listbox" :aria-label="t('score.captions')" aria-multiselectable="true" tabindex="0" @keydown.down.prevent.stop="go(1)" @keydown.up.prevent.stop="go(-1)">
    <template #default="{ item, index }">
      <div
        class="card"
        role="option"
        :aria-selected="selection.ids.has(item.id)"
        :class="{ chosen: selection.ids.has(item.id), current: selection.currentId === item.id }"
        :style="{ '--speaker': colours.get(item.speaker ?? '') ?? 'var(--line)' }"
        :data-card="item.id"
        @mousedown.prevent
        @click="press($event, item.id)"
      >
        <small class="time">{{ index + 1 }} · {{ shortClock(item.in_ms) }}<template v-if="item.style"> · <b>{{ item.style }}</b></template></small>
        <span v-if="isShape(item)" class="soft" data-shape>{{ t('style.shape.one') }}</span>
        <span v-else :dir="item.direction">{{ textOf(item).replaceAll('\n', ' ') }}</span>
      </div>
    </template>
  </v-virtual-scroll>
</template>

<style scoped>
.cards {
  height: 100%;
  padding: 6px 6px 6px 8px;
}
.card {
  height: 42px;
  margin-bottom: 4px;
  padding: 3px 8px;
  overflow: hidden;
  cursor: default;
  background: var(--paper);
  border: 1px solid var(--line);
  border-left: 4px solid var(--speaker);
  border-radius: 5px;
}
.card small,
.card span {
  display: block;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.card small {
  font-size: 11.5px;
  color: var(--soft);
}
.card small b {
  font-weight: 500;
  color: var(--russet);
}
/* On the wash of the current card, russet would be too faint for so small letters. */
.card.current small b {
  color: inherit;
}
.card span {
  font-size: 13px;
}
.card.chosen {
  background: var(--russet-wash);
}
.card.current {
  border-color: var(--russet);
}
.none {
  padding: 16px;
}
</style>
