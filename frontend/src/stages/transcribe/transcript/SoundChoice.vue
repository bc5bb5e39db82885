<script setup lang="ts">
/** Which of the film's sounds is recognised, and whether with voice focus; it is heard before it is used. */
import { computed, nextTick, onMounted, ref, shallowRef, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import { answered, client, type Schemas } from '@/api/client'
import { usePlayer } from '@/picture/playerStore'
import { useProject } from '@/session/projectStore'

const stream = defineModel<number>('stream', { required: true })
const voiceFocus = defineModel<boolean>('voiceFocus', { required: true })
defineProps<{ disabled: boolean }>()

const { t } = useI18n()
const project = useProject()
const player = usePlayer()

const sounds = shallowRef<Schemas['SoundView'][]>([])
const audio = ref<HTMLAudioElement | null>(null)
/** Where in the film the passage that is heard begins; null while none is. */
const heardMs = ref<number | null>(null)
const problem = ref('')

const streams = computed(() =>
  sounds.value.map(({ language, title, channels }, value) => ({
    value,
    title: [t('sound.number', { n: value + 1 }), title, language, t('sound.channels', channels)].filter(Boolean).join(' · '),
  })),
)
const source = computed(() => {
  if (heardMs.value === null) return undefined
  const asked = new URLSearchParams({ from_ms: String(Math.round(heardMs.value)), stream: String(stream.value), voice_focus: String(voiceFocus.value) })
  return `/api/films/${project.project!.film.id}/sound?${asked}`
})

// The same passage another way, from where it was: so the two can be compared.
watch(source, async (now, before) => {
  const at = before ? (audio.value?.currentTime ?? 0) : 0
  await nextTick()
  if (!now || !audio.value) return
  audio.value.currentTime = at
  try {
    await audio.value.play()
  } catch (refused) {
    if ((refused as Error).name !== 'AbortError') fail()
  }
})

onMounted(async () => {
  sounds.value = await answered(
    client.GET('/api/films/{film_id}/sounds', { params: { path: { film_id: project.project!.film.id } } }),
  )
})

function hear() {
  problem.value = ''
  if (heardMs.value !== null) {
    heardMs.value = null
    return
  }
  if (player.playing) player.pause()
  heardMs.value = player.timeMs
}

function fail() {
  heardMs.value = null
  problem.value = t('sound.failed')
}
</script>

<template>
  <div class="sound">
    <v-select v-if="streams.length > 1" v-model="stream" :items="streams" :label="t('sound.label')" :disabled="disabled" data-stream />
    <div class="focus">
      <label><input v-model="voiceFocus" type="checkbox" :disabled="disabled" data-voice-focus> {{ t('sound.voiceFocus') }}</label>
      <v-btn size="small" variant="outlined" data-hear-sound @click="hear">{{ heardMs === null ? t('sound.hear') : t('sound.stop') }}</v-btn>
    </div>
    <p class="soft">{{ t('sound.voiceFocusIs') }}</p>
    <audio ref="audio" :src="source" data-heard-sound @ended="heardMs = null" @error="source && fail()" />
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
  </div>
</template>

<style scoped>
.sound {
  display: grid;
  gap: 8px;
  margin-top: 10px;
  text-align: start;
}
.focus {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 10px;
}
p {
  margin: 0;
  font-size: 12.5px;
}
.problem {
  color: var(--heather);
}
</style>
