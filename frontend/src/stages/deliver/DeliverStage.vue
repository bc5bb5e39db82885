<script setup lang="ts">
/** What leaves the house: packing lists that are made together, single files, and words about the film. */
import { computed, onMounted, ref } from 'vue'
import { useI18n } from 'vue-i18n'

import { keysWaitFor, useCommands } from '@/kit/commands/commands'
import KeyCap from '@/kit/commands/KeyCap.vue'
import { usePacking } from '@/session/packingStore'
import { useVersions } from '@/session/versionsStore'
import PackingList from '@/stages/deliver/PackingList.vue'
import AboutFilm from '@/stages/deliver/words/AboutFilm.vue'
import SingleFiles from '@/stages/deliver/SingleFiles.vue'

const { t } = useI18n()
const packing = usePacking()
const versions = useVersions()
/** What is shown beside the lists, or in their place: single files, or words about the film. */
type Other = 'single' | 'about'
const other = ref<Other | null>(null)
const problem = ref('')
onMounted(() => {
  // Keys that are pressed before the lists are there are about them.
  void keysWaitFor(packing.read().catch((refused: Error) => (problem.value = refused.message)))
  void versions.read().catch(() => undefined)
})

const lists = computed(() => packing.lists?.deliveries ?? [])
/** Lists of the house that are not in the project. */
const others = computed(() => {
  const taken = new Set(lists.value.map(({ delivery }) => delivery.taken_from))
  return (packing.lists?.lists ?? []).filter(({ id }) => !taken.has(id))
})
const shown = computed(() => other.value ?? packing.shownId ?? 'single')

function show(id: string) {
  other.value = id === 'single' || id === 'about' ? id : null
  if (!other.value) void keysWaitFor(packing.show(id))
}
async function begin(name: string, houseId: string | null = null) {
  problem.value = ''
  try {
    await keysWaitFor(packing.begin(name, houseId))
    other.value = null
  } catch (refused) {
    problem.value = (refused as Error).message
  }
}
const beginNew = () => begin(t('packing.firstName', { n: lists.value.length + 1 }))
const step = (by: number) => {
  const all = [...lists.value.map(({ id }) => id), 'single', 'about']
  show(all[(all.indexOf(shown.value) + by + all.length) % all.length]!)
}
useCommands([
  { id: 'list-begin', run: () => void beginNew() },
  { id: 'list-next', run: () => step(1) },
  { id: 'list-before', run: () => step(-1) },
])
</script>

<template>
  <div class="deliver">
    <nav :aria-label="t('packing.lists')">
      <h1>{{ t('deliver.title') }}</h1>
      <button v-for="{ id, delivery } in lists" :key="id" type="button" :aria-pressed="id === shown" :data-list="id" @click="show(id)">{{ delivery.name }}</button>
      <button type="button" :aria-pressed="shown === 'single'" data-list="single" @click="show('single')">{{ t('packing.single') }}</button>
      <button type="button" :aria-pressed="shown === 'about'" data-list="about" @click="show('about')">{{ t('aboutFilm.film') }}</button>
      <span class="new">
        <v-btn size="small" variant="text" data-list-begin @click="beginNew">{{ t('packing.begin') }} <KeyCap command="list-begin" /></v-btn>
        <v-btn v-for="{ id, name, count } in others" :key="id" size="small" variant="text" :data-list-take="id" @click="begin(name, id)">{{ t('packing.takeList', { name, count }) }}</v-btn>
      </span>
    </nav>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <AboutFilm v-if="shown === 'about'" />
    <PackingList v-else-if="shown !== 'single'" :key="packing.shownId!" />
    <div v-else class="scrolled">
      <p v-if="!lists.length && packing.lists" class="soft about">{{ t('packing.about') }}</p>
      <SingleFiles />
    </div>
  </div>
</template>

<style scoped>
.deliver {
  display: flex;
  flex-direction: column;
  height: 100%;
  min-height: 0;
}
nav {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px 18px;
  padding: 18px 26px 8px;
}
h1 {
  margin: 0 8px 0 0;
  font-size: 20px;
}
nav > button {
  padding: 3px 0;
  color: var(--soft);
  border-bottom: 2px solid transparent;
}
nav > button[aria-pressed='true'] {
  color: var(--ink);
  font-weight: 600;
  border-bottom-color: var(--russet);
}
nav > button:focus-visible {
  outline: 2px solid var(--tide);
  outline-offset: 2px;
}
.new {
  margin-left: auto;
}
.scrolled {
  flex: 1;
  overflow-y: auto;
  padding: 4px 26px 60px;
}
.about {
  max-width: 640px;
  margin: 0 0 14px;
}
.problem {
  margin: 0 26px;
  color: var(--heather);
}
</style>
