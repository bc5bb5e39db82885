<script setup lang="ts">
/** The key that a command has here now; nothing where it has none. */
import { computed } from 'vue'

import type { CommandId } from '@/kit/commands/catalogue'
import { printed } from '@/kit/commands/keys'
import { keyOf } from '@/kit/commands/keymap'

const props = defineProps<{
  command: CommandId
  /** Shows the key that works while text has the cursor. */
  inText?: boolean
}>()
const key = computed(() => keyOf(props.command, props.inText))
</script>

<template>
  <kbd v-if="key">{{ printed(key) }}</kbd>
</template>
