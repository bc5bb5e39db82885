<script setup lang="ts">
/** The languages of a film for who keeps it: drafts and open ones, what they were before, and what the host writes itself. */
import { ref, shallowRef } from 'vue'
import { useI18n } from 'vue-i18n'

import { ask, type Film, languageName, type Track, when, type Writing } from '@/host/ask'

const props = defineProps<{ film: Film }>()
const emit = defineEmits<{ changed: [] }>()
const { t } = useI18n()
const problem = ref('')
const history = shallowRef<{ language: string; writings: Writing[] } | null>(null)

async function deed(method: string, path: string, body?: unknown) {
  try {
    await ask(method, `films/${props.film.id}/${path}`, body)
    problem.value = ''
  } catch (error) {
    problem.value = error instanceof TypeError ? t('gone') : (error as Error).message
  }
  history.value = null
  emit('changed')
}
async function look(track: Track) {
  if (history.value?.language === track.language) {
    history.value = null
    return
  }
  const writings = await ask<Writing[]>('GET', `films/${props.film.id}/tracks/${track.language}/history`)
  history.value = { language: track.language, writings }
}
</script>

<template>
  <section :aria-label="t('desk.title')" data-languages>
    <h2>{{ t('desk.title') }}</h2>
    <table v-if="film.tracks.length">
      <thead>
        <tr>
          <th scope="col">{{ t('desk.language') }}</th>
          <th scope="col">{{ t('desk.state') }}</th>
          <th scope="col">{{ t('desk.by') }}</th>
          <th scope="col">{{ t('desk.changed') }}</th>
          <td></td>
        </tr>
      </thead>
      <tbody>
        <template v-for="track in film.tracks" :key="track.language">
          <tr :data-track="track.language" :data-open="track.is_open">
            <td>{{ languageName(track.language) }}</td>
            <td :class="{ soft: track.is_open, wrong: !track.is_open }">{{ track.is_open ? t('desk.open') : t('desk.draft') }}</td>
            <td>{{ track.by }} <small class="soft">{{ t('desk.lines', track.cues) }}</small></td>
            <td class="figures">{{ when(track.changed_ms) }}</td>
            <td>
              <div class="acts">
                <button type="button" @click="deed('PATCH', `tracks/${track.language}`, { is_open: !track.is_open })">{{ track.is_open ? t('desk.hide') : t('desk.show') }}</button>
                <button type="button" :aria-expanded="history?.language === track.language" @click="look(track)">{{ t('desk.history') }}</button>
                <button type="button" @click="deed('DELETE', `tracks/${track.language}`)">{{ t('desk.remove') }}</button>
              </div>
            </td>
          </tr>
          <tr v-if="history?.language === track.language">
            <td colspan="5">
              <ol>
                <li v-for="writing in history.writings" :key="writing.version">
                  <span class="figures">{{ when(writing.came_ms) }}</span> {{ writing.by }}
                  <span class="soft">{{ t('desk.lines', writing.cues) }}</span>
                </li>
              </ol>
            </td>
          </tr>
        </template>
      </tbody>
    </table>
    <p class="machine">
      <button type="button" :disabled="film.machine === 'making'" data-machine @click="deed('POST', 'machine-captions')">{{ film.machine === 'making' ? t('desk.making') : t('desk.machine') }}</button>
      <span v-if="film.machine === 'failed'" class="wrong">{{ t('desk.failed') }}</span>
    </p>
    <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
  </section>
</template>

<style scoped>
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.acts button {
  font-size: 14px;
}
ol {
  margin: 0;
  padding-left: 20px;
}
.machine {
  margin-top: 14px;
}
</style>
