<script setup lang="ts">
/** The text of a caption in its styles, as far as a list shows them. */
import type { Schemas } from '@/api/client'
import { pieces } from '@/kit/emoji'

defineProps<{ spans: readonly Schemas['Span'][] }>()
</script>

<template>
  <span
    v-for="(span, index) in spans"
    :key="index"
    :class="{ italic: span.italic, bold: span.bold, underline: span.underline, tinted: span.colour || span.background }"
    :style="{ '--tint': span.colour ?? 'inherit', '--box': span.background ?? (span.colour ? '#23201c' : 'transparent') }"
    ><template v-for="(piece, at) in pieces(span.text)" :key="at"
      ><img v-if="piece.picture" class="emoji" :src="piece.picture" :alt="piece.text" draggable="false" /><template v-else>{{ piece.text }}</template></template
    ></span
  >
</template>

<style scoped src="@/kit/textStyles.css"></style>

<style scoped>
.emoji {
  width: 1.15em;
  height: 1.15em;
  vertical-align: -0.2em;
}
/* Colours are made to be seen on a picture: here they stand on their box, or on a dark ground. */
.tinted {
  padding: 0 3px;
  color: var(--tint);
  background: var(--box);
  border-radius: 2px;
}
</style>
