<script setup lang="ts">
/** Where something on a packing list is sent once it is made: a host, and which film or which collection there. */
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import type { Schemas } from '@/api/client'
import { type HostFilm, useHosts } from '@/session/hostsStore'
import ConnectForm from '@/stages/hosts/ConnectForm.vue'

type Destination = Schemas['Destination']
const destination = defineModel<Destination | null>({ required: true })
const props = defineProps<{ isFilm: boolean }>()
const { t } = useI18n()
const hosts = useHosts()
const films = shallowRef<HostFilm[]>([])
const collections = shallowRef<{ id: string; name: string }[]>([])
const problem = ref('')
const connecting = ref(false)
/** The choice that is no host: to connect with one. */
const ANOTHER = 'another'

onMounted(() => void hosts.read().catch(told))
const told = (refused: unknown) => void (problem.value = (refused as Error).message)
const to = computed(() => destination.value?.connection ?? '')
watch(
  [to, () => props.isFilm],
  async ([id]) => {
    films.value = []
    collections.value = []
    problem.value = ''
    if (!id) return
    try {
      if (props.isFilm) {
        collections.value = await hosts.collections(id)
        const only = collections.value[0]
        if (only && destination.value && !destination.value.collection) set({ collection: only.id })
      } else films.value = (await hosts.films(id)).films
    } catch (refused) {
      told(refused)
    }
  },
  { immediate: true },
)
const set = (values: Partial<Destination>) => (destination.value = { ...destination.value!, ...values })
function choose(event: Event) {
  const field = event.target as HTMLSelectElement
  connecting.value = field.value === ANOTHER
  if (connecting.value) field.value = to.value
  else destination.value = field.value ? { connection: field.value, film: null, is_open: false, collection: '' } : null
}
function connected(id: string) {
  connecting.value = false
  destination.value = { connection: id, film: null, is_open: false, collection: '' }
}
const chosen = (event: Event) => (event.target as HTMLSelectElement).value
/** One that is not among the newest stays in sight. */
const unlisted = computed(() => destination.value?.film && !films.value.some(({ id }) => id === destination.value?.film))
</script>

<template>
  <label class="dial">
    <span>{{ t('packing.dial.sendTo') }}</span>
    <select :value="to" data-dial="send-to" @change="choose">
      <option value="">{{ t('packing.sendNowhere') }}</option>
      <option v-for="one in hosts.connections ?? []" :key="one.id" :value="one.id">{{ one.host }} ({{ one.name }})</option>
      <option v-if="to && hosts.connections && !hosts.connections.some(({ id }) => id === to)" :value="to">{{ t('packing.connectionGone') }}</option>
      <option :value="ANOTHER">{{ t('hosts.another') }}</option>
    </select>
  </label>
  <ConnectForm v-if="connecting" @connected="connected" />
  <template v-else-if="destination">
    <label v-if="!isFilm" class="dial">
      <span>{{ t('packing.dial.filmThere') }}</span>
      <select :value="destination.film ?? ''" data-dial="film-there" @change="set({ film: chosen($event) || null })">
        <option value="">{{ t('packing.filmOfThis') }}</option>
        <option v-for="film in films" :key="film.id" :value="film.id">{{ film.title }}</option>
        <option v-if="unlisted" :value="destination.film!">{{ t('packing.filmChosen') }}</option>
      </select>
    </label>
    <label v-else class="dial">
      <span>{{ t('hosts.collection') }}</span>
      <select :value="destination.collection ?? ''" data-dial="collection" @change="set({ collection: chosen($event) })">
        <option v-for="one in collections" :key="one.id" :value="one.id">{{ one.name }}</option>
      </select>
    </label>
    <label v-if="!isFilm" class="tick"><input type="checkbox" :checked="destination.is_open ?? false" data-dial="open-there" @change="set({ is_open: ($event.target as HTMLInputElement).checked })"> {{ t('packing.openThere') }}</label>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
  </template>
</template>

<style scoped>
.problem {
  margin: 0;
  color: var(--heather);
}
</style>
