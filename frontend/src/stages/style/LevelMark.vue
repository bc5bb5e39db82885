<script setup lang="ts">
/** Which level says something, as a shape. */
import type { Level } from '@/stages/style/useProperty'

defineProps<{ level: Level }>()
</script>

<template>
  <svg viewBox="0 0 10 10" :class="level" aria-hidden="true">
    <path v-if="level === 'words'" d="M5 0l5 5-5 5-5-5z" />
    <circle v-else-if="level === 'caption'" cx="5" cy="5" r="4" />
    <template v-else-if="level === 'speaker'">
      <circle cx="5" cy="5" r="3.500" class="open" />
      <path d="M5 1.500a3.500 3.500 0 0 0 0 7z" />
    </template>
    <rect v-else-if="level === 'style'" x="1" y="3" width="8" height="4" rx="1" />
    <circle v-else cx="5" cy="5" r="3.500" class="open" />
  </svg>
</template>

<style scoped>
svg {
  flex: none;
  width: 10px;
  height: 10px;
  fill: var(--straw);
}
.caption,
.words {
  fill: var(--russet);
}
.speaker {
  fill: var(--tide);
}
.open {
  fill: none;
  stroke: var(--soft);
}
.speaker .open {
  stroke: var(--tide);
}
</style>
