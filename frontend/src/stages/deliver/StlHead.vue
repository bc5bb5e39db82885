<script setup lang="ts">
/** What the head of EBU STL files says: asked for once, and kept with the track. */
import { onMounted, ref } from 'vue'
import { useI18n } from 'vue-i18n'

import { answered, client, named, Refused, type Schemas } from '@/api/client'
import PanelHead from '@/kit/PanelHead.vue'
import { newId, useTrack } from '@/session/tracksStore'

const emit = defineEmits<{ close: [] }>()
const { t } = useI18n()
const track = useTrack()
type Head = Schemas['StlHead']
const FIELDS: readonly (keyof Head)[] = [
  'title', 'translated_title', 'translator', 'publisher', 'country', 'created', 'revised', 'programme_start',
]
const head = ref<Head | null>(null)
const problem = ref('')
const wrong = ref<keyof Head>()
const params = { path: { track_id: track.id } }

onMounted(async () => (head.value = await answered(client.GET('/api/tracks/{track_id}/stl-head', { params }))))

async function store() {
  try {
    await answered(client.PUT('/api/tracks/{track_id}/stl-head', { params, ...named(newId()), body: head.value! }))
    emit('close')
  } catch (refused) {
    const field = FIELDS.find((name) => refused instanceof Refused && name === refused.values.field)
    wrong.value = field
    problem.value = field ? t('stl.wrong', { field: t(`stl.${field}`), form: t(`stl.hint.${field}`) }) : (refused as Error).message
  }
}
</script>

<template>
  <form v-if="head" class="head" :aria-label="t('stl.form')" data-stl-head @submit.prevent="store" @keydown.esc.stop="emit('close')">
    <PanelHead :title="t('stl.form')" @close="emit('close')" />
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <label v-for="field in FIELDS" :key="field">
      <span>{{ t(`stl.${field}`) }}</span>
      <input v-model="head[field]" class="field" :placeholder="t(`stl.hint.${field}`)" maxlength="32" :aria-invalid="wrong === field" :data-stl="field" />
    </label>
    <label>
      <span>{{ t('stl.teletext_level') }}</span>
      <select v-model="head.teletext_level" class="field">
        <option v-for="level in ['', '1', '2']" :key="level" :value="level">{{ level || t('stl.usual') }}</option>
      </select>
    </label>
    <v-btn color="primary" variant="flat" size="small" type="submit">{{ t('stl.keep') }}</v-btn>
  </form>
</template>

<style scoped>
.head {
  display: grid;
  gap: 8px;
  padding: 10px 16px 14px;
  font-size: 13px;
}
label {
  display: grid;
  grid-template-columns: 130px 1fr;
  align-items: center;
  gap: 10px;
}
input,
select {
  min-width: 0;
  padding: 3px 8px;
}
.problem {
  margin: 0;
  color: var(--heather);
}
.v-btn {
  justify-self: start;
}
</style>
