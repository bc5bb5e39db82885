<script setup lang="ts">
/** The current caption's words under the picture: those selected in it are styled apart. */
import { computed, nextTick, onBeforeUnmount, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import { isShape, textOf } from '@/session/captions'
import { useProject } from '@/session/projectStore'
import { useSelection } from '@/score/selectionStore'
import { useLooks } from '@/stages/style/looksStore'
import { useStyling } from '@/styling/stylingStore'

const { t } = useI18n()
const project = useProject()
const selection = useSelection()
const looks = useLooks()
const styling = useStyling()

const field = ref<HTMLTextAreaElement | null>(null)
const text = computed(() => (selection.current ? textOf(selection.current) : ''))
const rows = computed(() => Math.max(text.value.split('\n').length, 1))
/** The words before those that are selected, these, and those behind. */
const parts = computed(() => {
  const { from, to } = looks.words ?? { from: 0, to: 0 }
  return [text.value.slice(0, from), text.value.slice(from, to), text.value.slice(to)]
})

function selected() {
  const area = field.value
  if (!area || document.activeElement !== area) return
  const [from, to] = [area.selectionStart, area.selectionEnd]
  looks.words = from < to ? { from, to } : null
  if (looks.words) looks.wanted = 'words'
}

/** Puts the cursor at the first word, selected. */
function enter() {
  const area = field.value
  if (!area || !text.value) return
  area.focus()
  const [start, end] = [looks.words?.from ?? text.value.search(/\S/), looks.words?.to ?? -1]
  area.setSelectionRange(start, end > start ? end : start + (/^\S+/.exec(text.value.slice(start))?.[0].length ?? 0))
  selected()
}

function leave() {
  looks.words = null
  field.value?.setSelectionRange(0, 0)
  field.value?.blur()
}

watch(text, async () => {
  // Other words: what was selected of those before is not meant any more.
  looks.words = null
  await nextTick()
  field.value?.setSelectionRange(0, 0)
})

const gone = styling.addPage(() => {
  const [id, range] = [selection.currentId, looks.words]
  return id && range ? { captions: [id], range, back: () => field.value?.focus() } : null
})
onBeforeUnmount(gone)
defineExpose({ enter, leave })
</script>

<template>
  <div class="line" :data-rows="rows">
    <div v-if="text" class="words" :lang="project.trackInfo?.language" :dir="selection.current?.direction">
      <p aria-hidden="true">{{ parts[0] }}<mark v-if="parts[1]">{{ parts[1] }}</mark>{{ parts[2] }}</p>
      <textarea
        ref="field"
        readonly
        :value="text"
        :rows="rows"
        :aria-label="t('style.words')"
        data-keys="words"
        data-style-words
        @select="selected"
        @keyup="selected"
        @mouseup="selected"
        @focus="selected"
      />
    </div>
    <span class="soft hint">{{ text ? t('style.wordsHint') : t(isShape(selection.current) ? 'style.shape.hint' : 'style.noCaption') }}</span>
  </div>
</template>

<style scoped>
.line {
  display: flex;
  align-items: center;
  gap: 14px;
  min-height: 44px;
  padding: 8px 16px;
  background: var(--paper);
  border-bottom: 1px solid var(--line);
}
.words {
  position: relative;
  flex: 1;
  min-width: 0;
}
p,
textarea {
  width: 100%;
  margin: 0;
  padding: 0;
  font: 16px/1.4 var(--text-font);
  white-space: pre-wrap;
  overflow-wrap: anywhere;
}
p {
  min-height: 1.4em;
}
textarea {
  position: absolute;
  inset: 0;
  height: 100%;
  overflow: hidden;
  color: transparent;
  resize: none;
  background: none;
  border: 0;
  outline-offset: 3px;
}
textarea::selection {
  color: transparent;
  background: transparent;
}
mark {
  color: inherit;
  background: var(--russet-wash);
  box-shadow: 0 2px 0 var(--russet);
}
@media (max-width: 1150px) {
  .line:has(.words) .hint {
    display: none;
  }
}
.hint {
  flex: none;
  max-width: 200px;
  font-size: 12.5px;
  text-align: right;
}
.hint:only-child {
  max-width: none;
  text-align: left;
}
</style>
