<script setup lang="ts">
/** What a view shows under the film, in the column beside it. */
import PlacedIn from '@/kit/PlacedIn.vue'

withDefaults(
  defineProps<{
    /** Lays it out as settings: with room around, one under the other. */
    dials?: boolean
    label?: string
  }>(),
  { label: undefined },
)
</script>

<template>
  <PlacedIn place="beside">
    <section v-if="dials" class="dials" :aria-label="label"><slot /></section>
    <slot v-else />
  </PlacedIn>
</template>

<style scoped>
.dials {
  display: grid;
  gap: 12px;
  padding: 14px 16px;
  font-size: 13px;
}
.dials :slotted(p) {
  margin: 0;
}
</style>
