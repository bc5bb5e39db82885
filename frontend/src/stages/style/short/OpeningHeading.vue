<script setup lang="ts">
/** One or two lines that open the clip, in a style of their own: a caption that is locked, so that no rhythm takes it. */
import { computed, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import { useCommands } from '@/kit/commands/commands'
import KeyCap from '@/kit/commands/KeyCap.vue'
import { snap } from '@/kit/time'
import { usePlayer } from '@/picture/playerStore'
import { textOf } from '@/session/captions'
import { useProject } from '@/session/projectStore'
import { newCaption, newId, useTrack } from '@/session/tracksStore'
import { useShort } from '@/stages/style/short/shortStore'
import type { Look } from '@/styling/looks'
import { useStyles } from '@/styling/stylesStore'

/** How long it stands, and by how much it is larger than the words below it. */
const [SHOWN_MS, LARGER] = [2600, 1.25]

const { t } = useI18n()
const project = useProject()
const track = useTrack()
const player = usePlayer()
const styles = useStyles()
const short = useShort()
const field = ref<HTMLTextAreaElement | null>(null)
const styleName = computed(() => t('short.heading.style'))
const heading = computed(() => track.captions.find(({ style, locked, in_ms }) => locked && in_ms < SHOWN_MS && style === styleName.value))
const written = ref('')
watch(heading, (now) => (written.value = now ? textOf(now) : ''), { immediate: true })

/** The look's own, without what it says of spoken words: higher up, larger, growing in and fading out. */
function lookOfHeading(): Look {
  const look = short.current!.style
  return {
    ...look, size: (look.size ?? 0.07) * LARGER, x: 0.5, y: 0.2, anchor: 'middle', align: 'center', comes: 'grow', comes_ms: 320, goes: 'fade', goes_ms: 240,
    spoken: null, said: null, to_come: null, spoken_by: null, second_line: null,
  }
}

async function store() {
  const text = written.value.split('\n').map((line) => line.trim()).filter(Boolean).slice(0, 2).join('\n')
  const now = heading.value
  if (text === (now ? textOf(now) : '')) return
  if (now && !text) return track.edit({ kind: 'delete-captions', captions: [now.id] }, newId())
  if (now) return track.edit({ kind: 'change-captions', changes: [{ caption: now.id, text }] }, newId())
  if (!styles.byName.has(styleName.value)) await styles.put(styleName.value, lookOfHeading())
  const caption = { ...newCaption(0, snap(SHOWN_MS, project.rate), [{ text } as never]), style: styleName.value, locked: true }
  track.edit({ kind: 'insert-captions', captions: [caption as never] }, newId())
  player.place(snap(SHOWN_MS / 2, project.rate))
}
useCommands([{ id: 'heading-write', run: () => field.value?.focus() }])
</script>

<template>
  <p class="section-title">{{ t('short.heading.title') }} <KeyCap command="heading-write" /></p>
  <textarea ref="field" v-model="written" rows="2" maxlength="200" :placeholder="t('short.heading.hint')" :aria-label="t('short.heading.title')" data-heading @change="store" @keydown.ctrl.enter.prevent="field?.blur()" />
</template>

<style scoped>
.section-title {
  margin: 8px 0 0;
}
textarea {
  padding: 4px 8px;
  font-size: 13.5px;
  resize: none;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 4px;
}
</style>
