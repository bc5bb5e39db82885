<script setup lang="ts">
/** The packing list for other films: kept for all projects, and made for many at once. */
import { computed, onMounted, ref, shallowRef } from 'vue'
import { useI18n } from 'vue-i18n'

import { answered, client, named, type Schemas } from '@/api/client'
import { keysWaitFor } from '@/kit/commands/commands'
import { sentence } from '@/kit/i18n'
import PanelHead from '@/kit/PanelHead.vue'
import { newId } from '@/session/identity'
import { usePacking } from '@/session/packingStore'
import { usePeople } from '@/session/people'
import { useProject } from '@/session/projectStore'

const emit = defineEmits<{ close: [] }>()
const { t } = useI18n()
const packing = usePacking()
const project = useProject()
const people = usePeople()
const films = shallowRef<{ id: string; title: string }[]>([])
const chosen = ref(new Set<string>())
const problem = ref('')
const kept = ref('')
const met = shallowRef<Schemas['MetView'][]>([])
const panel = ref<HTMLElement | null>(null)

onMounted(async () => {
  const all = await answered(client.GET('/api/projects'))
  films.value = all.filter(({ id }) => id !== project.project?.id).map(({ id, title }) => ({ id, title }))
  panel.value?.querySelector<HTMLElement>('input, button')?.focus()
})
const houseId = computed(() => kept.value || packing.shown?.taken_from || '')
const titleOf = (id: string) => films.value.find((film) => film.id === id)?.title ?? id

function choose(id: string, wanted: boolean) {
  const now = new Set(chosen.value)
  if (wanted) now.add(id)
  else now.delete(id)
  chosen.value = now
}
/** Keeps the list as it is now; one that was kept before becomes what it is now. */
async function keep(): Promise<string> {
  const id = houseId.value || newId()
  const query = { project_id: project.project!.id, delivery_id: packing.shownId! }
  await packing.settled()
  await answered(client.PUT('/api/packing-lists/{list_id}', { params: { path: { list_id: id }, query }, ...named(newId()) }))
  if (packing.shown?.taken_from !== id) await packing.change({ taken_from: id })
  kept.value = id
  return id
}
async function attempt(what: () => Promise<unknown>) {
  problem.value = ''
  try {
    await keysWaitFor(what())
  } catch (refused) {
    problem.value = (refused as Error).message
  }
}
const keepIt = () => attempt(keep)
const make = () =>
  attempt(async () => {
    const list_id = await keep()
    const body = { projects: [...chosen.value], make: true, author: people.ownName }
    const used = await answered(client.POST('/api/packing-lists/{list_id}/use', { params: { path: { list_id } }, body }))
    met.value = used.projects
  })
</script>

<template>
  <section ref="panel" class="others" :aria-label="t('packing.others')" data-other-films @keydown.esc.stop="emit('close')">
    <PanelHead :title="t('packing.others')" @close="emit('close')" />
    <p class="soft">{{ t('packing.othersAbout') }}</p>
    <ul v-if="films.length">
      <li v-for="{ id, title } in films" :key="id">
        <label><input type="checkbox" :checked="chosen.has(id)" :data-film="id" @change="choose(id, ($event.target as HTMLInputElement).checked)" /> {{ title }}</label>
      </li>
    </ul>
    <p v-else class="soft">{{ t('packing.noOthers') }}</p>
    <p class="acts">
      <v-btn v-if="films.length" size="small" color="primary" variant="flat" :disabled="!chosen.size" data-make-others @click="make">{{ t('packing.makeOthers', chosen.size) }}</v-btn>
      <v-btn size="small" data-keep-list @click="keepIt">{{ t('packing.keepList') }}</v-btn>
      <v-btn v-if="houseId" size="small" :href="`/api/packing-lists/${houseId}/file`" download data-list-file>{{ t('packing.listFile') }}</v-btn>
    </p>
    <p v-if="kept && !met.length" role="status" class="done" data-list-kept>{{ t('packing.listKept') }}</p>
    <ul v-if="met.length" data-met>
      <li v-for="{ project_id, problem: why } in met" :key="project_id">
        <router-link :to="{ name: 'deliver', params: { projectId: project_id } }">{{ titleOf(project_id) }}</router-link>:
        <span :class="why ? 'problem' : 'done'">{{ why ? sentence(why) : t('packing.othersMade') }}</span>
      </li>
    </ul>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
  </section>
</template>

<style scoped>
.others {
  display: grid;
  gap: 8px;
  padding: 10px 16px 14px;
}
p,
ul {
  margin: 0;
}
ul {
  padding: 0;
  list-style: none;
}
li {
  padding: 3px 0;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.done {
  color: var(--reed);
}
.problem {
  color: var(--heather);
}
</style>
