<script setup lang="ts">
/** The head of a part of the panel beside the film: what it is, and what a key does there. */
defineProps<{ title: string }>()
</script>

<template>
  <h3>
    {{ title }} <span class="soft"><slot /></span>
  </h3>
</template>

<style scoped>
h3 {
  display: flex;
  justify-content: space-between;
  margin: 0;
  font-size: 12.5px;
  font-weight: 650;
}
span {
  font-weight: 400;
}
</style>
