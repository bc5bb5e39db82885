<script setup lang="ts" generic="T extends string">
/** One of a few, all of them in sight. */
const chosen = defineModel<T>({ required: true })
defineProps<{ label: string; options: readonly { value: T; title: string }[] }>()
</script>

<template>
  <div class="choices" role="radiogroup" :aria-label="label">
    <button
      v-for="option in options"
      :key="option.value"
      type="button"
      role="radio"
      :aria-checked="chosen === option.value"
      :class="{ chosen: chosen === option.value }"
      @click="chosen = option.value"
    >
      {{ option.title }}
    </button>
  </div>
</template>

<style scoped>
.choices {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
}
button {
  padding: 3px 0;
  font-size: 13px;
  color: var(--soft);
  border-bottom: 2px solid transparent;
}
button.chosen {
  color: var(--ink);
  font-weight: 600;
  border-bottom-color: var(--russet);
}
button:focus-visible {
  outline: 2px solid var(--tide);
  outline-offset: 2px;
}
</style>
