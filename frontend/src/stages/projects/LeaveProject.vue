<script setup lang="ts">
/** Takes a project away, once one is sure. */
import { mdiTrashCanOutline } from '@mdi/js'
import { useI18n } from 'vue-i18n'

defineProps<{ title: string; asked: boolean }>()
const emit = defineEmits<{ ask: []; keep: []; remove: [] }>()
const { t } = useI18n()
</script>

<template>
  <v-btn v-if="!asked" icon variant="text" size="small" :aria-label="t('projects.remove', { title })" @click="emit('ask')">
    <v-icon :icon="mdiTrashCanOutline" size="20" />
  </v-btn>
  <span v-else class="sure">
    <v-btn size="small" color="error" @click="emit('remove')">{{ t('projects.removeNow') }}</v-btn>
    <v-btn size="small" @click="emit('keep')">{{ t('projects.keep') }}</v-btn>
  </span>
</template>

<style scoped>
.sure {
  display: flex;
  gap: 6px;
}
</style>
