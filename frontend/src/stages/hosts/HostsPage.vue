<script setup lang="ts">
/** Films on the hosts that Dunlin is connected with: found, looked through, and taken as projects. */
import { useEventListener } from '@vueuse/core'
import { computed, nextTick, onMounted, ref, shallowRef, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRouter } from 'vue-router'

import { languageName } from '@/kit/i18n'
import { dayAndTime, fileSize, minutes } from '@/kit/time'
import { type HostFilm, useHosts } from '@/session/hostsStore'
import ConnectForm from '@/stages/hosts/ConnectForm.vue'

const { t } = useI18n()
const router = useRouter()
const hosts = useHosts()
const shownId = ref<string | null>(null)
const connecting = ref(false)
const leaving = ref(false)
const collection = ref('')
const search = ref('')
const collections = shallowRef<{ id: string; name: string; films: number }[]>([])
const films = shallowRef<HostFilm[]>([])
const next = ref<string | null>(null)
const loaded = ref(false)
const problem = ref('')
const list = ref<HTMLElement | null>(null)

const shown = computed(() => hosts.connections?.find(({ id }) => id === shownId.value))
const ended = computed(() => shown.value?.expires_ms != null && shown.value.expires_ms <= Date.now())

onMounted(async () => {
  try {
    await hosts.read()
    show(hosts.connections?.[0]?.id ?? null)
  } catch (refused) {
    problem.value = (refused as Error).message
  }
})
useEventListener(window, 'keydown', (event) => event.key === 'Escape' && void router.push({ name: 'projects' }))

function show(id: string | null) {
  shownId.value = id
  collection.value = search.value = ''
  collections.value = []
  films.value = []
  leaving.value = false
  connecting.value = id === null
  if (!id) return
  void readFilms()
  void hosts.collections(id).then((found) => id === shownId.value && (collections.value = found)).catch(() => undefined)
}
let turn = 0
async function readFilms(after: string | null = null) {
  const id = shownId.value!
  const mine = ++turn
  loaded.value = false
  try {
    const page = await hosts.films(id, { ...(collection.value ? { collection: collection.value } : {}), search: search.value, ...(after ? { after } : {}) })
    if (mine !== turn) return
    films.value = after ? [...films.value, ...page.films] : page.films
    next.value = page.next
    problem.value = ''
  } catch (refused) {
    if (mine === turn) problem.value = (refused as Error).message
  }
  loaded.value = true
}
watch([collection, search], () => shownId.value && void readFilms())

const taking = ref('')
async function take(film: HostFilm) {
  if (taking.value) return
  taking.value = film.id
  problem.value = ''
  try {
    const project = await hosts.take(shownId.value!, film.id)
    await router.push({ name: 'transcribe', params: { projectId: project.id } })
  } catch (refused) {
    problem.value = (refused as Error).message
  }
  taking.value = ''
}
async function disconnect() {
  await hosts.disconnect(shownId.value!)
  show(hosts.connections?.[0]?.id ?? null)
}
/** The arrows go from one film to the next. */
function step(event: KeyboardEvent, by: number) {
  const buttons = [...(list.value?.querySelectorAll<HTMLElement>('[data-take]') ?? [])]
  const at = buttons.indexOf(event.target as HTMLElement)
  buttons[Math.min(Math.max(at + by, 0), buttons.length - 1)]?.focus()
}
const finding = ref<HTMLInputElement | null>(null)
async function connected(id: string) {
  connecting.value = false
  show(id)
  await nextTick()
  finding.value?.focus()
}
const readIn = (film: HostFilm) =>
  film.tracks.map((track) => `${languageName(track.language)}${track.by_machine ? ` (${t('hosts.byMachine')})` : track.is_open ? '' : ` (${t('hosts.draft')})`}`).join(', ')
</script>

<template>
  <main class="hosts">
    <v-btn size="small" :to="{ name: 'projects' }" data-back>{{ t('about.back') }}</v-btn>
    <h1>{{ t('hosts.title') }}</h1>
    <nav v-if="hosts.connections?.length" :aria-label="t('hosts.connections')">
      <button v-for="one in hosts.connections" :key="one.id" type="button" :aria-pressed="one.id === shownId && !connecting" :data-connection="one.id" @click="show(one.id)">{{ one.host }} <small class="soft">{{ one.origin.replace(/^https?:../, '') }}</small></button>
      <button type="button" :aria-pressed="connecting" data-another @click="connecting = true">{{ t('hosts.another') }}</button>
    </nav>
    <section v-if="connecting" :aria-label="t('hosts.connect')">
      <p v-if="!hosts.connections?.length" class="first">{{ t('hosts.none') }}</p>
      <ConnectForm @connected="connected" />
    </section>
    <template v-else-if="shown">
      <p class="soft told">
        {{ t('hosts.as', { name: shown.name }) }}
        <template v-if="shown.expires_ms">· <span :class="{ problem: ended }">{{ t(ended ? 'hosts.ended' : 'hosts.until', { when: dayAndTime(shown.expires_ms) }) }}</span></template>
        · <button v-if="!leaving" type="button" class="link" data-disconnect @click="leaving = true">{{ t('hosts.disconnect') }}</button>
        <template v-else>{{ t('hosts.disconnectSure') }} <button type="button" class="link" data-disconnect-now @click="disconnect">{{ t('hosts.disconnectNow') }}</button> <button type="button" class="link" @click="leaving = false">{{ t('hosts.stay') }}</button></template>
      </p>
      <div class="finding">
        <input ref="finding" v-model="search" class="field" type="search" :placeholder="t('hosts.search')" :aria-label="t('hosts.search')" data-search>
        <select v-model="collection" class="field" :aria-label="t('hosts.collection')" data-collection>
          <option value="">{{ t('hosts.allCollections') }}</option>
          <option v-for="one in collections" :key="one.id" :value="one.id">{{ one.name }} ({{ one.films }})</option>
        </select>
      </div>
      <p v-if="problem" class="problem" role="alert">{{ problem }} <v-btn size="small" @click="readFilms()">{{ t('job.retry') }}</v-btn></p>
      <p v-else-if="loaded && !films.length" class="soft">{{ t(search || collection ? 'hosts.noneFound' : 'hosts.noFilms') }}</p>
      <ul v-if="films.length" ref="list" @keydown.down.prevent="step($event, 1)" @keydown.up.prevent="step($event, -1)">
        <li v-for="film in films" :key="film.id" data-host-film>
          <span class="what"><b>{{ film.title }}</b><span class="soft">{{ minutes(film.duration_ms) }} · {{ fileSize(film.size_bytes) }} · {{ languageName(film.language) }}</span></span>
          <span class="soft">{{ film.tracks.length ? t('hosts.readIn', { languages: readIn(film) }) : t('hosts.unread') }}</span>
          <v-btn size="small" :disabled="taking !== ''" :aria-label="t('hosts.takeOne', { title: film.title })" data-take @click="take(film)">{{ t('hosts.take') }}</v-btn>
        </li>
      </ul>
      <v-btn v-if="next" size="small" class="more" @click="readFilms(next)">{{ t('hosts.more') }}</v-btn>
    </template>
    <p v-else-if="problem" class="problem" role="alert">{{ problem }}</p>
  </main>
</template>

<style scoped>
.hosts {
  height: 100vh;
  overflow-y: auto;
  padding: 36px max(40px, calc(50vw - 480px)) 60px;
}
h1 {
  margin: 18px 0 10px;
  font-size: 26px;
}
nav {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 22px;
  margin-bottom: 12px;
  border-bottom: 1px solid var(--line);
}
nav button {
  padding: 4px 0 6px;
  font-weight: 600;
  color: var(--soft);
  border-bottom: 2px solid transparent;
}
nav button[aria-pressed='true'] {
  color: var(--ink);
  border-bottom-color: var(--russet);
}
nav small {
  font-weight: 400;
}
.first {
  max-width: 520px;
}
.told {
  margin: 0 0 14px;
}
.finding {
  display: flex;
  gap: 10px;
  margin-bottom: 12px;
}
.finding input {
  width: 280px;
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
  border-top: 1px solid var(--line);
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1.4fr) minmax(0, 1fr) auto;
  align-items: center;
  gap: 16px;
  padding: 10px 6px;
  border-bottom: 1px solid var(--line);
}
.what {
  display: grid;
}
.what b {
  overflow-wrap: anywhere;
  font-size: 16px;
}
.more {
  margin-top: 12px;
}
.problem {
  color: var(--heather);
}
</style>
