<script setup lang="ts">
/** The name of the project, which can be written over. */
import { nextTick, ref } from 'vue'
import { useI18n } from 'vue-i18n'

import { useCommands } from '@/kit/commands/commands'
import { useProject } from '@/session/projectStore'
import { useTrack } from '@/session/tracksStore'

const { t } = useI18n()
const project = useProject()
const track = useTrack()
const renaming = ref(false)
const name = ref('')
const field = ref<HTMLInputElement | null>(null)

async function begin() {
  name.value = project.project!.title
  renaming.value = true
  await nextTick()
  field.value?.select()
}

async function store() {
  if (!renaming.value) return
  renaming.value = false
  const title = name.value.trim()
  if (!title || title === project.project!.title) return
  try {
    await project.change({ title })
  } catch (refused) {
    track.refusal = (refused as Error).message
  }
}

useCommands([{ id: 'rename-project', run: () => void begin(), enabled: () => project.project !== null }])
</script>

<template>
  <h1 class="title">
    <input
      v-if="renaming"
      ref="field"
      v-model="name"
      class="field"
      maxlength="200"
      :aria-label="t('command.rename-project')"
      data-project-title
      @keydown.enter.prevent.stop="store"
      @keydown.esc.prevent.stop="renaming = false"
      @blur="store"
    />
    <button v-else-if="project.project" type="button" :title="t('command.rename-project')" @click="begin">{{ project.project.title }}</button>
  </h1>
</template>

<style scoped>
.title {
  flex: 0 1 auto;
  min-width: 60px;
  margin: 0;
  font-size: 15px;
  font-weight: 700;
}
button {
  max-width: 100%;
  overflow: hidden;
  font-weight: 700;
  text-overflow: ellipsis;
  white-space: nowrap;
  cursor: text;
}
input {
  width: 260px;
}
</style>
