<script setup lang="ts">
/** A new shape on the picture: a box, an ellipse, or the outlines of a file. */
import { ref } from 'vue'
import { useI18n } from 'vue-i18n'

import { answered, client, fileBody } from '@/api/client'
import { run, useCommands } from '@/kit/commands/commands'
import { titleOf } from '@/kit/commands/titles'
import { moveFrames, snap } from '@/kit/time'
import { usePlayer } from '@/picture/playerStore'
import { useSelection } from '@/score/selectionStore'
import { newId } from '@/session/identity'
import { useProject } from '@/session/projectStore'
import { newCaption, useTrack } from '@/session/tracksStore'
import { useLooks } from '@/stages/style/looksStore'
import { outlineOf, type ShapeKind } from '@/stages/style/shapes'

const { t } = useI18n()
const track = useTrack()
const project = useProject()
const player = usePlayer()
const selection = useSelection()
const looks = useLooks()
const input = ref<HTMLInputElement | null>(null)

/** Of a new shape: its height as a part of the picture's, how wide a box is to its height, and for how long it is there. */
const [HEIGHT, WIDE, SHOWN_MS] = [0.25, 2, 2000]
/** A dark of the sea, half of what is behind it let through. */
const [COLOUR, OPACITY] = ['#1D3A44', 0.85]

/** Puts a shape into the middle of the picture, for as long as the caption that is selected, or from now on. */
function put(shape: string, ratio: number) {
  const now = selection.current
  const start = now ? now.in_ms : snap(player.timeMs, project.rate)
  const end = now ? now.out_ms : Math.max(snap(start + SHOWN_MS, project.rate), moveFrames(start, 1, project.rate))
  const width = Math.min((HEIGHT * looks.base * ratio) / looks.size.width, 1)
  const caption = {
    ...newCaption(start, end),
    look: { shape, size: HEIGHT, colour: COLOUR, opacity: OPACITY, outline: 0, shadow: 0, layer: 'beneath' as const },
    placement: { anchor: 'middle' as const, align: 'center' as const, x: 0.5, y: 0.5, width, vertical: null },
  }
  track.edit({ kind: 'insert-captions', captions: [caption] }, newId())
  selection.only(caption.id)
}
const make = (kind: ShapeKind, ratio: number) => put(outlineOf(kind, ratio), ratio)

async function bringIn() {
  const file = input.value?.files?.[0]
  if (!file) return
  try {
    const { path, ratio } = await answered(client.POST('/api/outlines', { ...fileBody(file) }))
    put(path, ratio)
  } catch (refused) {
    track.refusal = `${file.name}: ${(refused as Error).message}`
  }
  input.value!.value = ''
}

const free = () => !player.playing
useCommands([
  { id: 'shape-box', run: () => make('box', WIDE), enabled: free },
  { id: 'shape-rounded', run: () => make('rounded', WIDE), enabled: free },
  { id: 'shape-ellipse', run: () => make('ellipse', 1), enabled: free },
  { id: 'shape-file', run: () => input.value?.click(), enabled: free },
])
const COMMANDS = { box: 'shape-box', rounded: 'shape-rounded', ellipse: 'shape-ellipse', file: 'shape-file' } as const
</script>

<template>
  <v-menu>
    <template #activator="{ props: menu }">
      <v-btn v-bind="menu" size="small" data-shapes>{{ t('style.shape.new') }}</v-btn>
    </template>
    <v-list density="compact" :aria-label="t('style.shape.new')">
      <v-list-item v-for="(command, name) in COMMANDS" :key="name" :title="t(`style.shape.${name}`)" :data-new-shape="name" @click="run(command)">
        <template #append><kbd>{{ titleOf(command).split(' · ')[1] }}</kbd></template>
      </v-list-item>
    </v-list>
  </v-menu>
  <input ref="input" type="file" accept=".svg,image/svg+xml" class="visually-hidden" tabindex="-1" :aria-label="t('style.shape.file')" data-shape-file @change="bringIn" />
</template>
