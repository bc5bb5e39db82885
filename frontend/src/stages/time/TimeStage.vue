<script setup lang="ts">
import { ref } from 'vue'

import ScorePage from '@/score/ScorePage.vue'
import { useCommands } from '@/shared/commands'

const score = ref<InstanceType<typeof ScorePage> | null>(null)

useCommands([
  { id: 'zoom-in', keys: ['+', '='], run: () => score.value?.zoom(1) },
  { id: 'zoom-out', keys: ['-'], run: () => score.value?.zoom(-1) },
])
</script>

<template>
  <ScorePage ref="score" />
</template>
