<script setup lang="ts">
/** A place in the film to go to, typed: a time, a frame, or how far from here. */
import { ref } from 'vue'
import { useI18n } from 'vue-i18n'

import { answered, client } from '@/api/client'
import { useFocusReturn } from '@/kit/focusReturn'
import { usePlayer } from '@/picture/playerStore'
import { useProject } from '@/session/projectStore'

const emit = defineEmits<{ done: [] }>()
const { t } = useI18n()
const player = usePlayer()
const project = useProject()
const text = ref('')
const wrong = ref('')
const field = ref<HTMLInputElement | null>(null)

useFocusReturn(() => field.value?.focus())

async function go() {
  if (!text.value.trim()) return emit('done')
  try {
    const place = await answered(
      client.GET('/api/projects/{project_id}/place', {
        params: { path: { project_id: project.project!.id }, query: { text: text.value, now_ms: Math.round(player.timeMs) } },
      }),
    )
    player.place(place)
    player.following = true
    emit('done')
  } catch (refused) {
    wrong.value = (refused as Error).message
  }
}
</script>

<template>
  <form @submit.prevent="go">
    <input
      ref="field"
      v-model="text"
      class="time"
      :aria-label="t('player.goTo')"
      :placeholder="t('player.goToHint')"
      :aria-invalid="wrong !== ''"
      spellcheck="false"
      autocomplete="off"
      data-go-to
      @input="wrong = ''"
      @keydown.esc.stop.prevent="emit('done')"
      @blur="emit('done')"
    />
    <p v-if="wrong" role="alert">{{ wrong }}</p>
  </form>
</template>

<style scoped>
form {
  position: relative;
}
input {
  width: 150px;
  padding: 2px 8px;
  color: inherit;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 6px;
}
p {
  position: absolute;
  right: 0;
  top: 30px;
  z-index: 6;
  width: max-content;
  max-width: 320px;
  margin: 0;
  padding: 4px 10px;
  font-size: 13px;
  color: var(--heather);
  background: var(--paper);
  border: 1px solid currentColor;
  border-radius: 6px;
}
</style>
