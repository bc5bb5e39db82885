<script setup lang="ts">
/** Fonts that are added for all projects, from files; and those that were, to be taken away again. */
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'

import { useCommands } from '@/kit/commands/commands'
import { useFonts } from '@/session/fonts'
import { useTrack } from '@/session/tracksStore'

/** Whether they are listed. */
defineProps<{ listed: boolean }>()

const { t } = useI18n()
const fonts = useFonts()
const track = useTrack()
const input = ref<HTMLInputElement | null>(null)
const busy = ref(false)
/** The family that is to be taken away, once that is said again. */
const going = ref<string | null>(null)

const own = computed(() => fonts.families.filter(({ kind }) => kind === 'own'))

async function doing(work: () => Promise<unknown>) {
  busy.value = true
  try {
    await work()
    // What is set in them is drawn and measured otherwise now.
    await track.reload()
  } catch (refused) {
    track.refusal = (refused as Error).message
  } finally {
    busy.value = false
  }
}
async function add() {
  const files = [...(input.value?.files ?? [])]
  input.value!.value = ''
  if (files.length) await doing(() => fonts.add(files))
}
async function remove(family: string) {
  if (going.value !== family) return void (going.value = family)
  going.value = null
  await doing(() => fonts.remove(family))
}

useCommands([{ id: 'fonts-add', run: () => input.value?.click(), enabled: () => !busy.value }])
</script>

<template>
  <div>
    <p v-if="listed" class="fonts" data-fonts-added>
      <v-btn size="small" :loading="busy" data-fonts-add @click="input?.click()">{{ t('style.addFonts') }}</v-btn>
      <span v-if="!own.length" class="soft">{{ t('style.addFontsAbout') }}</span>
      <span v-for="{ name, scripts } in own" :key="name" class="family" :data-added-font="name">
        <b>{{ name }}</b> <small class="soft">{{ scripts.join(', ') }}</small>
        <button type="button" :class="{ sure: going === name }" data-font-remove @click="remove(name)">{{ t(going === name ? 'style.removeFontSure' : 'style.remove') }}</button>
      </span>
    </p>
    <input ref="input" type="file" multiple accept=".ttf,.otf,.ttc,.otc,.woff,.woff2" class="visually-hidden" tabindex="-1" :aria-label="t('style.addFonts')" data-font-file @change="add" />
  </div>
</template>

<style scoped>
.fonts {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 16px;
  margin: 0;
  padding: 10px 16px 0;
  font-size: 13px;
}
.family button {
  margin-left: 6px;
  color: var(--tide);
  text-decoration: underline;
  text-underline-offset: 2px;
}
.family .sure {
  color: var(--russet);
}
</style>
