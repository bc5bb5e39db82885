<script setup lang="ts">
/** The look kept for all projects under a name of its own; out as a file, and in. */
import { computed, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import { useCommands } from '@/kit/commands/commands'
import KeyCap from '@/kit/commands/KeyCap.vue'
import { useShort } from '@/stages/style/short/shortStore'

const { t } = useI18n()
const short = useShort()
const name = ref('')
const asDefault = ref(false)
const input = ref<HTMLInputElement | null>(null)
const file = ref<HTMLInputElement | null>(null)
const kept = computed(() => short.looks.find((one) => one.kept && one.look.name === short.current?.name))
watch(
  () => short.current?.name,
  (now) => {
    name.value = now ?? ''
    asDefault.value = kept.value?.default ?? false
  },
  { immediate: true },
)

async function keep() {
  const called = name.value.trim()
  if (!called) return
  await short.keep(called, asDefault.value)
  // What the track is in is what was kept.
  if (short.current && called !== short.current.name) await short.apply({ ...short.current, name: called })
}
async function bringIn() {
  const chosen = file.value?.files?.[0]
  if (chosen) await short.takeFile(chosen)
  file.value!.value = ''
}
useCommands([
  { id: 'look-keep', run: () => input.value?.focus() },
  { id: 'look-file-in', run: () => file.value?.click() },
])
</script>

<template>
  <p class="section-title">{{ t('short.own') }} <KeyCap command="look-keep" /></p>
  <form class="keep" @submit.prevent="keep">
    <input ref="input" v-model="name" maxlength="100" :aria-label="t('short.name')" data-look-name />
    <label><input v-model="asDefault" type="checkbox" data-look-default /> {{ t('short.default') }}</label>
    <v-btn size="small" type="submit" :disabled="!name.trim()" data-keep-look>{{ t('short.keep') }}</v-btn>
  </form>
  <p class="files">
    <a v-if="short.current && short.looks.some(({ look }) => look.name === short.current?.name)" :href="`/api/look-file?name=${encodeURIComponent(short.current.name)}`" download data-look-out>{{ t('short.fileOut') }}</a>
    <button type="button" @click="file?.click()">{{ t('short.fileIn') }}</button>
    <button v-if="kept" type="button" @click="short.letGo(kept.look.name)">{{ t('short.letGo') }}</button>
    <input ref="file" type="file" accept=".json" class="visually-hidden" tabindex="-1" :aria-label="t('short.fileIn')" data-look-in @change="bringIn" />
  </p>
</template>

<style scoped>
.section-title {
  margin: 8px 0 0;
}
.keep {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 10px;
}
.keep > input {
  flex: 1;
  min-width: 100px;
  padding: 3px 6px;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 4px;
}
.files {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  margin: 0;
  font-size: 12.5px;
}
.files button {
  color: var(--tide);
  text-decoration: underline;
  text-underline-offset: 2px;
}
</style>
