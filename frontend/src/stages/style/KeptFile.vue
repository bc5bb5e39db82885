<script setup lang="ts">
/** The styles that are kept for all projects, as a file: out of this house, and into it. */
import { ref } from 'vue'
import { useI18n } from 'vue-i18n'

import { answered, client, fileBody } from '@/api/client'
import { useCommands } from '@/kit/commands/commands'
import { useTrack } from '@/session/tracksStore'
import { useStyles } from '@/styling/stylesStore'

const ADDRESS = '/api/styles-file'

const { t } = useI18n()
const track = useTrack()
const styles = useStyles()
const input = ref<HTMLInputElement | null>(null)
const link = ref<HTMLAnchorElement | null>(null)

async function bringIn() {
  const file = input.value?.files?.[0]
  if (!file) return
  try {
    await answered(client.POST(ADDRESS, { ...fileBody(file) }))
    await styles.read()
  } catch (refused) {
    track.refusal = (refused as Error).message
  } finally {
    input.value!.value = ''
  }
}

useCommands([
  { id: 'styles-out', run: () => link.value?.click(), enabled: () => styles.kept.length > 0, why: 'style' },
  { id: 'styles-in', run: () => input.value?.click() },
])
</script>

<template>
  <p class="soft">
    <a v-if="styles.kept.length" ref="link" :href="ADDRESS" download data-styles-out>{{ t('style.fileOut') }}</a>
    <button type="button" @click="input?.click()">{{ t('style.fileIn') }}</button>
    <input ref="input" type="file" accept=".json" class="visually-hidden" tabindex="-1" :aria-label="t('style.fileIn')" data-styles-in @change="bringIn" />
  </p>
</template>

<style scoped>
p {
  display: flex;
  gap: 16px;
  margin: 10px 0 0;
  font-size: 12.5px;
}
button {
  color: var(--tide);
  text-decoration: underline;
  text-underline-offset: 2px;
}
</style>
