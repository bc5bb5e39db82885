<script setup lang="ts">
/** What hears the film's speech, and in which language. */
import { computed, onMounted, ref, shallowRef } from 'vue'
import { useI18n } from 'vue-i18n'

import { answered, client, type EngineView } from '@/api/client'
import { useProject } from '@/project/projectStore'

const { t } = useI18n()
const project = useProject()

const engines = shallowRef<EngineView[]>([])
const engine = ref('')
const language = ref(project.project?.tracks[0]?.language ?? 'en')
const problem = ref('')
/** Words that were put right by hand are not replaced by one press. */
const sure = ref(false)

const hearing = computed(() => project.latest('recognise'))
const active = computed(() => hearing.value?.state === 'running' || hearing.value?.state === 'waiting')
const chosen = computed(() => engines.value.find((candidate) => candidate.name === engine.value))
const models = computed(() =>
  (chosen.value?.models ?? [])
    .map((model) => `${model.name} (${model.languages.length ? model.languages.join(', ') : t('transcribe.manyLanguages')})`)
    .join(', '),
)

onMounted(async () => {
  engines.value = await answered(client.GET('/api/engines'))
  engine.value = engines.value[0]?.name ?? ''
})

async function recognise() {
  if (project.words.length && !sure.value) {
    sure.value = true
    return
  }
  sure.value = false
  problem.value = ''
  try {
    if (language.value !== project.project!.tracks[0]!.language) await project.change({ language: language.value })
    await project.recognise(engine.value, language.value)
  } catch (error) {
    problem.value = (error as Error).message
  }
}
</script>

<template>
  <section class="recognise">
    <div class="line">
      <v-select v-model="engine" class="engine" :items="engines" item-title="title" item-value="name" :label="t('transcribe.engine')" :disabled="active" />
      <v-text-field v-model="language" class="language" :label="t('transcribe.language')" :disabled="active" />
      <v-btn
        :color="project.words.length ? undefined : 'primary'"
        :variant="project.words.length ? 'outlined' : 'flat'"
        :disabled="active || !engine"
        data-recognise
        @click="recognise"
        @blur="sure = false"
      >
        {{ !project.words.length ? t('transcribe.recognise') : sure ? t('transcribe.replace') : t('transcribe.again') }}
      </v-btn>
    </div>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <p v-if="!project.words.length" class="soft">{{ engines.length ? t('transcribe.models', { models }) : t('transcribe.noEngine') }}</p>
  </section>
</template>

<style scoped>
.line {
  display: flex;
  align-items: center;
  gap: 10px;
}
.engine {
  flex: 0 1 146px;
}
.language {
  flex: 0 0 88px;
}
.problem {
  margin: 10px 0 0;
  color: var(--heather);
}
</style>
