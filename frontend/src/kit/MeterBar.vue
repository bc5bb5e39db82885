<script setup lang="ts">
/** A measure as a bar with its limits as ticks, its name before it and its value behind. */
defineProps<{
  name: string
  value: string
  /** Part of the bar that is filled, and where its ticks stand, from 0 to 1. */
  filled: number
  ticks: readonly number[]
  over?: boolean
  /** Close to its limit. */
  near?: boolean
}>()
</script>

<template>
  <div class="meter" :class="{ over, near: near && !over }">
    <span>{{ name }}</span>
    <span class="bar">
      <i :style="{ width: `${filled * 100}%` }" />
      <u v-for="tick in ticks" :key="tick" :style="{ left: `${tick * 100}%` }" />
    </span>
    <span class="value time">{{ value }}</span>
  </div>
</template>

<style scoped>
.meter {
  display: grid;
  grid-template-columns: 104px 1fr 92px;
  align-items: center;
  gap: 10px;
  font-size: 13px;
}
.bar {
  position: relative;
  height: 10px;
  background: var(--sand-deep);
  border-radius: 5px;
}
.bar i {
  position: absolute;
  inset: 0 auto 0 0;
  border-radius: 5px;
  background: var(--tide);
}
.bar u {
  position: absolute;
  top: -3px;
  bottom: -3px;
  width: 2px;
  background: var(--ink);
}
.value {
  text-align: right;
}
.near .bar i {
  background: var(--straw-bright);
}
.over .bar i {
  background: var(--heather);
}
.over .value {
  color: var(--heather);
  font-weight: 600;
}
</style>
