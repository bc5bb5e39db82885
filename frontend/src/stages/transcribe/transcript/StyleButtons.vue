<script setup lang="ts">
/** Words in italics, bold or underlined: those that are selected, or the one at the cursor. */
import { ref, watchEffect } from 'vue'
import { useI18n } from 'vue-i18n'

import { STYLES, type Style } from '@/stages/transcribe/transcript/transcriptDocument'
import { useTranscript } from '@/stages/transcribe/transcript/transcriptStore'
import { titleOf } from '@/kit/commands/titles'

const { t } = useI18n()
const transcript = useTranscript()

const writing = ref(false)
const on = ref<Style[]>([])
watchEffect(() => {
  void transcript.moves
  writing.value = transcript.editor?.isFocused ?? false
  on.value = writing.value ? STYLES.filter((style) => transcript.inStyle(style)) : []
})
</script>

<template>
  <div class="styles" role="group" :aria-label="t('transcribe.styles')">
    <button
      v-for="style in STYLES"
      :key="style"
      type="button"
      :class="style"
      :disabled="!writing"
      :aria-pressed="on.includes(style)"
      :aria-label="t(`command.style-${style}`)"
      :title="titleOf(`style-${style}`, true)"
      :data-style="style"
      @mousedown.prevent
      @click="transcript.toggleStyle(style)"
    >
      {{ t(`transcribe.styleLetter.${style}`) }}
    </button>
  </div>
</template>

<style scoped src="@/kit/textStyles.css"></style>

<style scoped>
.styles {
  display: flex;
  gap: 2px;
}
button {
  width: 26px;
  height: 26px;
  font-size: 14px;
  color: var(--ink);
  border-radius: 4px;
}
button:disabled {
  color: var(--soft);
}
button:not(:disabled):hover,
[aria-pressed='true'] {
  background: var(--paper);
  box-shadow: inset 0 0 0 1px var(--line);
}
[aria-pressed='true'] {
  color: var(--russet);
}
</style>
