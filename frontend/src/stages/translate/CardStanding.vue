<script setup lang="ts">
/** At the foot of a card: how many characters it may still have, and how far its translation is. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

import type { Caption } from '@/session/captions'
import type { Standing } from '@/session/translationStore'
import { charactersLeft } from '@/stages/translate/room'

const props = defineProps<{ caption: Caption; standing: Standing; speed: number | null | undefined; rows: boolean }>()
const { t } = useI18n()
const left = computed(() => charactersLeft(props.caption, props.speed))
const SHAPES: Partial<Record<Standing, string>> = {
  done: 'M2 6.500l3 3L10 3',
  draft: 'M2 10l1-3 5-5 2 2-5 5z',
  doubtful: 'M4 4a2 2 0 1 1 2.700 1.900C6.200 6.200 6 6.600 6 7.400M6 9.600v.5',
  later: 'M6 2v4l3 2M6 .8a5.200 5.200 0 1 0 .01 0',
  changed: 'M6 1l5 10H1zM6 5v3M6 9.200v.6',
}
</script>

<template>
  <span class="standing" :class="[standing, { rows }]" :data-standing="standing">
    <svg v-if="SHAPES[standing]" viewBox="0 0 12 12" role="img" :aria-label="t(`translate.standing.${standing}`)">
      <title>{{ t(`translate.standing.${standing}`) }}</title>
      <path :d="SHAPES[standing]" />
    </svg>
    <b v-if="left !== null" class="time" :class="{ over: left < 0 }" data-left>{{ left < 0 ? `−${-left}` : left }}</b>
  </span>
</template>

<style scoped>
.standing {
  position: absolute;
  right: 12px;
  bottom: 3px;
  display: flex;
  align-items: center;
  gap: 7px;
  font-size: 12px;
  line-height: 14px;
  color: var(--soft);
  pointer-events: none;
}
/* The out of the caption that is worked on is told at its lower right. */
:global(.card.current .standing:not(.rows)) {
  right: 140px;
}
/* Words that are read from right to left begin where it would stand. */
:global(.card.rtl .standing:not(.rows)) {
  right: auto;
  left: 44px;
}
.rows {
  position: static;
}
svg {
  width: 12px;
  height: 12px;
  fill: none;
  stroke: currentColor;
  stroke-width: 1.6;
}
.done svg {
  color: var(--reed);
}
.draft svg {
  color: var(--tide);
}
.changed svg {
  color: var(--heather);
}
b {
  font-weight: 500;
}
b.over {
  color: var(--heather);
  font-weight: 700;
}
</style>
