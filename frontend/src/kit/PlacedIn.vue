<script setup lang="ts">
/** What a view shows in a place of the workspace: under the film, over its picture, or in the panel at the right. */
import { useMounted } from '@vueuse/core'

defineProps<{ place: 'beside' | 'on-picture' | 'panel' }>()
// The place is the workspace's, and there once that is.
const placed = useMounted()
</script>

<template>
  <Teleport v-if="placed" :to="`#${place}`"><slot /></Teleport>
</template>
