<script setup lang="ts">
/** The head of what stands beside the work for a while: its name, what it is about, and a way to put it away. */
import { useI18n } from 'vue-i18n'

defineProps<{ title: string; about?: string }>()
defineEmits<{ close: [] }>()
const { t } = useI18n()
</script>

<template>
  <header>
    <h2>{{ title }} <small v-if="about" class="soft">{{ about }}</small></h2>
    <v-btn size="x-small" variant="text" @click="$emit('close')">{{ t('timing.close') }}</v-btn>
  </header>
</template>

<style scoped>
header {
  display: flex;
  align-items: baseline;
  justify-content: space-between;
}
h2 {
  margin: 0;
  font-size: 15px;
  font-weight: 650;
}
small {
  font-weight: 400;
}
</style>
