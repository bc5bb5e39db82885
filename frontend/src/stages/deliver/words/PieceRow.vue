<script setup lang="ts">
/** A piece of what is written about the film: its words, where they were said, and what can be done to it. */
import { computed, nextTick, onBeforeUnmount, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import KeyCap from '@/kit/commands/KeyCap.vue'
import { minutes } from '@/kit/time'
import type { How, Piece } from '@/session/aboutStore'

const props = defineProps<{ piece: Piece; isSelected: boolean; writing: boolean; atMs: number }>()
const emit = defineEmits<{ choose: []; write: []; written: [text: string]; leave: []; hear: []; again: [how: How]; clip: []; off: [] }>()
const { t } = useI18n()
const field = ref<HTMLTextAreaElement | null>(null)
/** What is written: another window may change the piece meanwhile, and takes nothing away from under the hand. */
const draft = ref('')
watch(
  () => props.writing,
  async (now) => {
    if (!now) return
    draft.value = props.piece.text
    await nextTick()
    const area = field.value!
    area.style.height = `${area.scrollHeight}px`
    area.focus()
    area.select()
  },
)
// The piece is gone, or the page is left: what was written is not.
onBeforeUnmount(() => props.writing && emit('written', draft.value))
const where = computed(() => {
  const { kind, said } = props.piece
  if (!said?.length) return ''
  return kind === 'passage' ? `${minutes(said[0]!.from_ms)}–${minutes(said.at(-1)!.to_ms)}` : minutes(props.atMs)
})
</script>

<template>
  <li :aria-current="isSelected" @click="emit('choose')">
    <button v-if="where" type="button" class="time link" :aria-label="t('aboutFilm.hearAt', { time: where })" data-hear @click.stop="emit('hear')">{{ where }}</button>
    <span v-else />
    <div>
      <textarea
        v-if="writing"
        ref="field"
        class="field"
        v-model="draft"
        :aria-label="t(`aboutFilm.kind.${piece.kind}`)"
        maxlength="20000"
        rows="1"
        @keydown.enter.exact.prevent="emit('written', draft)"
        @keydown.esc.stop="emit('leave')"
        @blur="writing && emit('written', draft)"
      />
      <p v-else class="text" :class="piece.kind" dir="auto" @dblclick="emit('write')">{{ piece.text }}</p>
      <small v-if="piece.why?.length" class="soft">{{ t('aboutFilm.strongBy', { why: piece.why.map((one) => t(`aboutFilm.why.${one}`)).join(', ') }) }}</small>
      <p v-if="isSelected && !writing" class="acts">
        <button type="button" class="link" data-another @click.stop="emit('again', 'another')">{{ t('aboutFilm.another') }} <KeyCap command="piece-another" /></button>
        <button type="button" class="link" data-longer @click.stop="emit('again', 'longer')">{{ t('aboutFilm.longer') }} <KeyCap command="piece-longer" /></button>
        <button type="button" class="link" data-shorter @click.stop="emit('again', 'shorter')">{{ t('aboutFilm.shorter') }} <KeyCap command="piece-shorter" /></button>
        <button type="button" class="link" data-write @click.stop="emit('write')">{{ t('aboutFilm.write') }} <KeyCap command="piece-write" /></button>
        <button v-if="piece.kind === 'passage'" type="button" class="link" data-clip @click.stop="emit('clip')">{{ t('aboutFilm.clip') }} <KeyCap command="piece-clip" /></button>
        <button type="button" class="link" data-off @click.stop="emit('off')">{{ t('packing.off') }} <KeyCap command="piece-off" /></button>
      </p>
    </div>
  </li>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: 84px minmax(0, 1fr);
  gap: 12px;
  align-items: baseline;
  padding: 6px 8px;
  scroll-margin: 14px;
  border-left: 3px solid transparent;
}
li[aria-current='true'] {
  background: var(--paper);
  border-left-color: var(--russet);
}
.time {
  font-size: 12.5px;
  text-align: left;
  white-space: nowrap;
}
.text {
  margin: 0;
  line-height: 1.45;
  overflow-wrap: anywhere;
}
.title {
  font-size: 16px;
  font-weight: 600;
}
textarea {
  width: 100%;
  resize: none;
  line-height: 1.45;
  font-size: 14px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  margin: 4px 0 0;
  font-size: 13px;
}
</style>
