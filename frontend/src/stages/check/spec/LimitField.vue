<script setup lang="ts">
/** A field whose text stays the typist's until it is left, whatever is drawn anew meanwhile. */
import { ref, watch } from 'vue'

const props = defineProps<{ value: string | number | null | undefined }>()
const emit = defineEmits<{ change: [text: string] }>()

const text = ref(String(props.value ?? ''))
const typing = ref(false)

watch(
  () => props.value,
  (now) => {
    if (!typing.value) text.value = String(now ?? '')
  },
)

function leave() {
  typing.value = false
  emit('change', text.value)
}
</script>

<template>
  <input v-model="text" @focus="typing = true" @keydown.enter="leave" @blur="leave">
</template>
