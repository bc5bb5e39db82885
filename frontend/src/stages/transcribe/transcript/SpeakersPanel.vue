<script setup lang="ts">
/** Who speaks: named, coloured, and said of a paragraph by a key. */
import { until } from '@vueuse/core'
import { computed, nextTick, ref } from 'vue'
import { useI18n } from 'vue-i18n'

import { useProject } from '@/session/projectStore'
import { SPEAKER_KEYS } from '@/kit/commands/speakerKeys'
import { useCommands } from '@/kit/commands/commands'
import { useTrack } from '@/session/tracksStore'
import { useTranscript } from '@/stages/transcribe/transcript/transcriptStore'
import VoicesGuess from '@/stages/transcribe/transcript/VoicesGuess.vue'
import KeyCap from '@/kit/commands/KeyCap.vue'

const { t } = useI18n()
const project = useProject()
const track = useTrack()
const transcript = useTranscript()
const names = ref<HTMLInputElement[]>([])
const speakers = computed(() => project.project?.speakers ?? [])

/** Apart from each other, and from what the page says with colour. */
const COLOURS = ['#2f6f8f', '#8a5a14', '#5f6b2d', '#7a3d6b', '#3f4f9a', '#8f4038', '#2d7a62', '#6a5a4a', '#51417d']

type Named = (typeof speakers.value)[number] & { was?: string | null }

async function keep(listed: Named[]) {
  try {
    await transcript.send()
    await project.changeSpeakers(listed)
  } catch (refused) {
    track.refusal = (refused as Error).message
    await project.refresh()
  }
}

/** Adds those who are not there yet, each with a colour. */
async function addNamed(names: string[]) {
  const known = new Set(speakers.value.map(({ name }) => name))
  const added = names.filter((name) => !known.has(name))
  const coloured = added.map((name, i) => ({ name, colour: COLOURS[(speakers.value.length + i) % COLOURS.length]! }))
  if (added.length) await keep([...speakers.value, ...coloured])
}

async function add() {
  const taken = new Set(speakers.value.map(({ name }) => name))
  let n = speakers.value.length + 1
  while (taken.has(t('transcribe.speaker', { n }))) n++
  const count = speakers.value.length + 1
  const kept = addNamed([t('transcribe.speaker', { n })])
  // Named while it is being stored: whoever types does not wait for that.
  await until(() => speakers.value.length).toBe(count, { timeout: 5000 })
  await nextTick()
  names.value.at(-1)?.select()
  await kept
}

function rename(index: number, event: Event) {
  const field = event.target as HTMLInputElement
  const name = field.value.trim()
  const now = speakers.value[index]!
  if (!name || name === now.name) field.value = now.name
  else void keep(speakers.value.map((one, i) => (i === index ? { ...one, name, was: one.name } : one)))
}

function recolour(index: number, event: Event) {
  const colour = (event.target as HTMLInputElement).value
  void keep(speakers.value.map((one, i) => (i === index ? { ...one, colour } : one)))
}

useCommands([
  ...SPEAKER_KEYS.map((id, index) => ({
    id,
    run: () => transcript.assign(speakers.value[index]!.name),
    enabled: () => index < speakers.value.length,
  })),
  { id: 'speaker-none', run: () => transcript.assign(null) },
])
</script>

<template>
  <section class="speakers" :aria-label="t('transcribe.speakers')">
    <header>
      <h2 class="section-title">{{ t('transcribe.speakers') }}</h2>
      <button type="button" class="add" data-add-speaker @click="add">{{ t('transcribe.addSpeaker') }}</button>
    </header>
    <p v-if="!speakers.length" class="soft">{{ t('transcribe.noSpeakers') }}</p>
    <ul v-else>
      <li v-for="(speaker, index) in speakers" :key="index">
        <KeyCap v-if="index < SPEAKER_KEYS.length" :command="SPEAKER_KEYS[index]!" />
        <input type="color" :value="speaker.colour" :aria-label="t('transcribe.colourOf', { name: speaker.name })" @change="recolour(index, $event)" />
        <input
          ref="names"
          class="field name"
          :value="speaker.name"
          :aria-label="t('transcribe.nameOf', { n: index + 1 })"
          maxlength="80"
          data-speaker-name
          @change="rename(index, $event)"
          @keydown.enter="($event.target as HTMLElement).blur()"
        />
        <button type="button" @click="transcript.assign(speaker.name, true)">{{ t('transcribe.onwards') }}</button>
      </li>
    </ul>
    <p v-if="speakers.length" class="soft hint"><KeyCap command="transcript-leave" in-text /> {{ t('transcribe.speakerHint') }} <KeyCap command="speaker-none" /> {{ t('transcribe.nobody') }}</p>
    <VoicesGuess v-if="project.project?.film.has_sound" @named="addNamed" />
  </section>
</template>

<style scoped>
.speakers {
  padding: 12px 16px;
}
header {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
}
.add,
li button {
  font-size: 12.5px;
  color: var(--tide);
}
.add:hover,
li button:hover {
  text-decoration: underline;
}
ul {
  margin: 8px 0 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: 22px 26px 1fr auto;
  align-items: center;
  gap: 8px;
  padding: 3px 0;
}
input[type='color'] {
  width: 24px;
  height: 24px;
  padding: 0;
  background: none;
  border: 1px solid var(--line);
  border-radius: 12px;
}
input[type='color']::-webkit-color-swatch-wrapper {
  padding: 2px;
}
input[type='color']::-webkit-color-swatch {
  border: 0;
  border-radius: 10px;
}
.name {
  min-width: 0;
  padding: 4px 8px;
}
p {
  margin: 8px 0 0;
  font-size: 12.5px;
}
</style>
