<script setup lang="ts">
/** Something to know above a page, with what can be done about it. */
defineProps<{ text: string; problem?: string }>()
</script>

<template>
  <div class="notice" role="status">
    <p>{{ text }}</p>
    <slot />
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
  </div>
</template>

<style scoped>
.notice {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px;
  padding: 10px 18px;
  border-bottom: 1px solid var(--line);
  border-left: 3px solid var(--straw);
  font-size: 13.5px;
}
p {
  flex: 1 1 320px;
  margin: 0;
}
.problem {
  flex-basis: 100%;
  color: var(--heather);
}
</style>
