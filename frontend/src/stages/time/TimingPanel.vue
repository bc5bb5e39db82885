<script setup lang="ts">
/** The frame of what stands beside the Score: its name, and a way to put it away. */
import { useCommands } from '@/kit/commands/commands'
import PanelHead from '@/kit/PanelHead.vue'
import { useTiming } from '@/stages/time/timingStore'

defineProps<{ title: string }>()
const timing = useTiming()
useCommands([{ id: 'panel-close', run: () => timing.close() }])
</script>

<template>
  <section class="panel" :aria-label="title">
    <PanelHead :title="title" @close="timing.close()" />
    <slot />
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 10px;
  padding: 10px 16px 16px;
}
</style>
