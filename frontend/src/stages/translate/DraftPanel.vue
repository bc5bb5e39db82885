<script setup lang="ts">
/** Drafts by an engine, for all that is empty or one after another. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

import KeyCap from '@/kit/commands/KeyCap.vue'
import { sentence } from '@/kit/i18n'
import JobLine from '@/kit/JobLine.vue'
import { isShape, textOf } from '@/session/captions'
import { useTranslation } from '@/session/translationStore'
import type { useDrafts } from '@/stages/translate/useDrafts'

const { drafts } = defineProps<{ drafts: ReturnType<typeof useDrafts> }>()
defineEmits<{ open: [] }>()
const { t, te } = useI18n()
const translation = useTranslation()

const { engine, engines, job, active, problem } = drafts
const captions = computed(() => (translation.target?.captions.value ?? []).filter((caption) => !isShape(caption)))
const empty = computed(() => captions.value.filter((caption) => !textOf(caption).trim()).length)
const unconfirmed = computed(() => captions.value.filter(({ id }) => translation.standings.get(id) === 'draft').length)
/** Models are called as their folders. */
function nameOf({ name, title }: { name: string; title: string }): string {
  const key = `translate.drafts.engine.${name}`
  return te(key) ? t(key, { title }) : title
}
const result = computed(() => (job.value?.state === 'done' ? (job.value.result as { asked: number; put: number; engine: string } | null) : null))
</script>

<template>
  <section class="drafts" :aria-label="t('translate.drafts.label')">
    <p class="soft">{{ t('translate.drafts.about') }}</p>
    <fieldset>
      <legend>{{ t('translate.drafts.by') }}</legend>
      <label v-for="one in engines" :key="one.name" class="engine" :class="{ soft: one.fault }">
        <input v-model="engine" type="radio" name="engine" :value="one.name" :disabled="Boolean(one.fault)" :data-engine="one.name" />
        <span>{{ nameOf(one) }}</span>
        <small v-if="one.fault" class="fault">{{ sentence(one.fault) }}</small>
      </label>
    </fieldset>
    <p class="acts">
      <v-btn color="primary" size="small" :disabled="active || !empty" data-draft-empty @click="drafts.empty()">
        {{ t('translate.drafts.empty', empty) }}
      </v-btn>
      <KeyCap command="draft-empty" />
    </p>
    <p class="soft"><KeyCap command="draft-here" /> {{ t('translate.drafts.here') }}</p>
    <JobLine v-if="job && job.state !== 'done'" :job="job" />
    <p v-if="result" data-drafted>{{ t('translate.drafts.came', { put: result.put, asked: result.asked, engine: result.engine }) }}</p>
    <p v-if="problem" class="fault" role="alert">{{ problem }}</p>
    <p v-if="unconfirmed"><v-btn size="small" data-drafts-open @click="$emit('open')">{{ t('translate.drafts.unconfirmed', unconfirmed) }}</v-btn></p>
  </section>
</template>

<style scoped>
.drafts {
  display: grid;
  gap: 12px;
}
p {
  margin: 0;
}
fieldset {
  display: grid;
  gap: 6px;
  padding: 0;
  margin: 0;
  border: 0;
}
legend {
  padding: 0;
  margin-bottom: 6px;
  font-weight: 650;
}
.engine {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 2px 8px;
  align-items: baseline;
}
.engine small {
  grid-column: 2;
}
.fault {
  color: var(--heather);
}
.acts {
  display: flex;
  align-items: center;
  gap: 8px;
}
</style>
