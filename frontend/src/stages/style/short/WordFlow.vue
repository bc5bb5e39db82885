<script setup lang="ts">
/** The captions as one flowing text, a line each, with a boundary between them that words are carried across. */
import { computed, nextTick, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import { pieces } from '@/kit/emoji'
import { shortClock } from '@/kit/time'
import { titleOf } from '@/kit/commands/titles'
import { usePlayer } from '@/picture/playerStore'
import { type Caption, textOf } from '@/session/captions'
import { useVersions } from '@/session/versionsStore'
import { useShort } from '@/stages/style/short/shortStore'
import { spokenAt, type ShortWord, wordsOf } from '@/stages/style/short/shortWords'
import { useWordCursor } from '@/stages/style/short/wordCursor'

const ROW_PX = 40
/** Characters that a row holds in one line of its usual letters. */
const LONG = 32

const { t } = useI18n()
const player = usePlayer()
const short = useShort()
const cursor = useWordCursor()
const versions = useVersions()
const list = ref<{ scrollToIndex: (index: number) => void; $el: HTMLElement } | null>(null)

const tight = computed(() => new Map(short.state?.tight.map((one) => [one.caption, one])))
const lines = computed(() => cursor.lines)
const shownAt = computed(() => lines.value.findIndex(({ in_ms, out_ms }) => in_ms <= player.timeMs && player.timeMs < out_ms))

function press(caption: Caption, word: ShortWord) {
  cursor.put(cursor.words.findIndex((one) => one.caption === caption.id && one.offset === word.offset))
}
const isAt = (caption: Caption, word: ShortWord) => cursor.word?.caption === caption.id && cursor.word.offset === word.offset
/** The word that is spoken: another one some times a second, while the time is another with each frame. */
const spoken = computed(() => {
  const line = lines.value[shownAt.value]
  return line ? `${line.id} ${spokenAt(wordsOf(line), player.timeMs)}` : ''
})

const field = ref<HTMLInputElement[]>([])
watch(
  () => cursor.written !== null,
  async (writing) => {
    if (!writing) return
    await nextTick()
    field.value[0]?.select()
  },
)

/** A word that is dragged to another line is carried there. */
const dragged = ref<{ caption: Caption; word: ShortWord; line: number } | null>(null)
const over = ref<number | null>(null)
async function drop(line: number) {
  const from = dragged.value
  dragged.value = over.value = null
  if (!from || Math.abs(line - from.line) !== 1) return
  press(from.caption, from.word)
  await cursor.deed(line < from.line ? 'carry-back' : 'carry-on')
}

watch(
  [() => cursor.word?.line, () => short.current?.rhythm],
  () => {
    const line = cursor.word?.line
    const element = list.value?.$el
    if (line === undefined || !element) return
    const top = line * ROW_PX
    if (top < element.scrollTop + ROW_PX || top + 2 * ROW_PX > element.scrollTop + element.clientHeight) list.value!.scrollToIndex(Math.max(line - 4, 0))
  },
  { flush: 'post' },
)
</script>

<template>
  <v-virtual-scroll ref="list" class="flow" :items="[...lines]" :item-height="ROW_PX" :aria-label="t('short.flow')" role="list" tabindex="-1">
    <template #default="{ item, index }">
      <div
        class="line"
        role="listitem"
        :class="{ here: cursor.word?.line === index, shown: index === shownAt, over: over === index, locked: item.locked, hidden: versions.shown?.apart[item.id]?.hidden }"
        :data-line="index"
        @dragover.prevent="over = index"
        @dragleave="over = null"
        @drop.prevent="drop(index)"
      >
        <small class="time">{{ shortClock(item.in_ms) }}</small>
        <p :dir="item.direction" :class="{ long: textOf(item).length > LONG }">
          <template v-for="(word, n) in wordsOf(item)" :key="word.offset">
            <input
              v-if="isAt(item, word) && cursor.written !== null"
              ref="field"
              v-model="cursor.written"
              class="field"
              :size="Math.max(cursor.written.length, 3)"
              :aria-label="t('short.write', { word: word.text })"
              data-word-field
              @keydown.enter.prevent.stop="cursor.take()"
              @keydown.esc.prevent.stop="cursor.written = null"
              @blur="cursor.take()"
            />
            <b
              v-else
              :class="{ on: isAt(item, word), spoken: spoken === `${item.id} ${n}`, weighty: word.emphasis === 1, second: word.emphasis === 2, begins: word.boundary === 'break' && n === 0 }"
              :data-word="word.text"
              draggable="true"
              @mousedown.stop
              @click="press(item, word)"
              @dblclick="cursor.write()"
              @dragstart="dragged = { caption: item, word, line: index }"
              @dragend="dragged = over = null"
              >{{ word.text }}<img v-if="word.emoji" class="emoji" :src="pieces(word.emoji)[0]?.picture" :alt="word.emoji" /></b
            >{{ ' ' }}
          </template>
        </p>
        <small v-if="tight.has(item.id)" class="tight" :title="t('short.tight', { percent: Math.round(tight.get(item.id)!.wider * 100) })">{{ t('short.tightMark') }}</small>
        <small v-else-if="item.locked" class="soft">{{ t('short.locked') }}</small>
        <span v-if="cursor.word?.line === index && dragged" class="hint">{{ titleOf('word-carry-back') }}</span>
      </div>
    </template>
  </v-virtual-scroll>
</template>

<style scoped>
.flow {
  flex: 1;
  min-height: 0;
  padding: 6px 10px 30px 4px;
}
.line {
  display: flex;
  align-items: center;
  gap: 10px;
  height: 40px;
  padding: 0 8px 0 6px;
  border-bottom: 1px dashed var(--line);
}
.line.shown {
  background: color-mix(in srgb, var(--tide) 8%, transparent);
}
.line.here {
  background: var(--paper);
  border-radius: 6px;
  outline: 2px solid var(--russet);
  outline-offset: -2px;
}
.line.hidden p {
  text-decoration: line-through;
  color: var(--soft);
}
.line.over {
  background: color-mix(in srgb, var(--tide) 18%, transparent);
}
.line .time {
  flex: none;
  width: 74px;
  font-size: 12px;
  color: var(--soft);
  text-align: right;
}
.line p {
  flex: 1;
  min-width: 0;
  margin: 0;
  overflow: hidden;
  font-size: 15.5px;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.line p.long {
  font-size: 13px;
  line-height: 1.3;
  white-space: normal;
}
.line b {
  padding: 1px 2px;
  font-weight: 400;
  cursor: grab;
  border-radius: 3px;
  border-bottom: 2px solid transparent;
}
.field {
  padding: 1px 3px;
  font-size: 15.5px;
  background: var(--paper);
  border: 1px solid var(--russet);
  border-radius: 3px;
}
.line b.weighty {
  font-weight: 700;
  color: var(--russet);
}
.line b.second {
  font-weight: 700;
  color: var(--tide);
}
.line b.begins::before {
  margin-right: 4px;
  color: var(--soft);
  content: '⌐';
}
.line b.spoken {
  border-bottom-color: var(--tide);
}
.line b.on {
  background: color-mix(in srgb, var(--russet) 26%, transparent);
}
.emoji {
  width: 18px;
  height: 18px;
  margin-left: 4px;
  vertical-align: -3px;
}
.tight {
  flex: none;
  padding: 1px 6px;
  font-size: 11.5px;
  color: var(--heather);
  border: 1px solid currentcolor;
  border-radius: 6px;
}
</style>
