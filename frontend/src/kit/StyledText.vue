<script setup lang="ts">
/** The text of a caption in its styles, as far as a list shows them. */
import { computed } from 'vue'

import type { Schemas } from '@/api/client'
import { pieces } from '@/kit/emoji'
import { type Hit, partedAtHits } from '@/session/spans'

const props = defineProps<{
  spans: readonly Schemas['Span'][]
  /** Places that are looked for, with what would stand there. */
  hits?: readonly Hit[]
}>()
const shown = computed(() => partedAtHits(props.spans, props.hits ?? []))
</script>

<template>
  <span
    v-for="(span, index) in shown"
    :key="index"
    :class="{
      italic: span.italic, bold: span.bold, underline: span.underline, tinted: span.colour || span.background,
      hit: span.within && !span.within.unknown, unknown: span.within?.unknown, gone: span.within?.put != null, here: span.within?.current,
    }"
    :style="{ '--tint': span.colour ?? 'inherit', '--box': span.background ?? (span.colour ? '#23201c' : 'transparent') }"
    ><template v-for="(piece, at) in pieces(span.text)" :key="at"
      ><img v-if="piece.picture" class="emoji" :src="piece.picture" :alt="piece.text" draggable="false" /><template v-else>{{ piece.text }}</template></template
    ><ins v-if="span.ends && span.within?.put">{{ span.within.put }}</ins></span
  >
</template>

<style scoped src="@/kit/textStyles.css"></style>

<style scoped>
.emoji {
  width: 1.15em;
  height: 1.15em;
  vertical-align: -0.2em;
}
.hit {
  background: var(--tide-wash);
  border-radius: 2px;
}
.unknown {
  text-decoration: underline dotted 2px var(--straw);
  text-underline-offset: 3px;
}
.hit.here {
  outline: 2px solid var(--russet);
}
.hit.gone {
  text-decoration: line-through;
}
ins {
  display: inline-block;
  padding: 0 2px;
  color: var(--reed);
  font-weight: 600;
  text-decoration: none;
}
/* Colours are made to be seen on a picture: here they stand on their box, or on a dark ground. */
.tinted {
  padding: 0 3px;
  color: var(--tint);
  background: var(--box);
  border-radius: 2px;
}
</style>
