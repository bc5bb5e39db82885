<script setup lang="ts">
/** Films as they came in, like a table of tides: when, how long, and in which languages they can be read. */
import { onMounted, ref, shallowRef, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import { ask, type Collection, type Film, languageName, runs, when } from '@/host/ask'

const { t } = useI18n()
const films = shallowRef<Film[]>([])
const collections = shallowRef<Collection[]>([])
const next = ref<string | null>(null)
const search = ref('')
const collection = ref('')
const loaded = ref(false)
const problem = ref('')

async function read(after: string | null) {
  const wanted = new URLSearchParams({ search: search.value, ...(collection.value ? { collection: collection.value } : {}), ...(after ? { after } : {}) })
  try {
    const page = await ask<{ films: Film[]; next: string | null }>('GET', `films?${wanted}`)
    films.value = after ? [...films.value, ...page.films] : page.films
    next.value = page.next
    problem.value = ''
  } catch (error) {
    problem.value = error instanceof TypeError ? t('gone') : (error as Error).message
  }
  loaded.value = true
}
onMounted(async () => {
  document.title = t('name')
  await read(null)
  collections.value = await ask<Collection[]>('GET', 'collections').catch(() => [])
})
watch([search, collection], () => void read(null))
const inCollection = (id: string) => collections.value.find((one) => one.id === id)?.name
const readIn = (film: Film) => film.tracks.filter((track) => track.is_open)
</script>

<template>
  <div class="dials">
    <input v-model="search" type="search" :placeholder="t('search')" :aria-label="t('search')" data-search>
    <select v-model="collection" :aria-label="t('all')" data-collection>
      <option value="">{{ t('all') }}</option>
      <option v-for="one in collections" :key="one.id" :value="one.id">{{ one.name }}</option>
    </select>
  </div>
  <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
  <p v-else-if="loaded && !films.length">{{ search || collection ? t('noneFound') : t('none') }}</p>
  <table v-else-if="films.length">
    <thead>
      <tr>
        <th scope="col">{{ t('column.film') }}</th>
        <th scope="col">{{ t('column.length') }}</th>
        <th scope="col">{{ t('column.came') }}</th>
        <th scope="col">{{ t('column.languages') }}</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="film in films" :key="film.id" data-film>
        <td>
          <router-link class="title" :to="{ name: 'film', params: { id: film.id } }">{{ film.title }}</router-link>
          <div class="soft">{{ inCollection(film.collection) }}</div>
        </td>
        <td class="figures">{{ runs(film.duration_ms) }}</td>
        <td class="figures">{{ when(film.came_ms) }}</td>
        <td>
          <span v-if="readIn(film).length">{{ readIn(film).map((track) => languageName(track.language)).join(', ') }}</span>
          <span v-else class="soft">{{ t('unread') }}</span>
        </td>
      </tr>
    </tbody>
  </table>
  <p v-if="next" class="more"><button type="button" @click="read(next)">{{ t('more') }}</button></p>
</template>

<style scoped>
.dials {
  display: flex;
  gap: 12px;
  margin-bottom: 18px;
}
.dials input {
  width: 300px;
}
.title {
  font: 600 18px var(--slab);
  overflow-wrap: anywhere;
}
.more {
  margin-top: 16px;
}
</style>
