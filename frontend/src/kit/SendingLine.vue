<script setup lang="ts">
/** A film that is being imported: how far it is, and a way to end it. */
import { useI18n } from 'vue-i18n'

import { fileSize } from '@/kit/time'

defineProps<{ sending: { name: string; size: number; part: number } }>()
defineEmits<{ stop: [] }>()
const { t } = useI18n()
</script>

<template>
  <div class="sending" data-sending>
    <p><b>{{ sending.name }}</b> <span class="soft">{{ fileSize(sending.size) }}</span></p>
    <v-progress-linear :model-value="sending.part * 100" :aria-label="t('projects.sending')" />
    <p class="soft">{{ sending.part < 1 ? t('projects.sent', { part: Math.round(sending.part * 100) }) : t('projects.reading') }}</p>
    <v-btn size="small" @click="$emit('stop')">{{ t('job.cancel') }}</v-btn>
  </div>
</template>

<style scoped>
.sending {
  display: grid;
  justify-items: start;
  gap: 10px;
  width: 100%;
}
p {
  margin: 0;
  overflow-wrap: anywhere;
}
</style>
