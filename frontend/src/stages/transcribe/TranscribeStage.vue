<script setup lang="ts">
import { computed, nextTick, onMounted, ref, shallowRef, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRouter } from 'vue-router'

import { answered, client, type EngineView } from '@/api/client'
import { usePlayer } from '@/player/playerStore'
import { useProject } from '@/project/projectStore'
import { useTrack } from '@/project/trackStore'
import JobLine from '@/shared/JobLine.vue'
import { shortClock } from '@/shared/time'
import { paragraphs } from '@/stages/transcribe/paragraphs'

/** A recogniser that is less sure than this of a word says so. */
const DOUBTFUL = 0.5

const { t } = useI18n()
const router = useRouter()
const project = useProject()
const track = useTrack()
const player = usePlayer()

const engines = shallowRef<EngineView[]>([])
const engine = ref('')
const language = ref(project.project?.tracks[0]?.language ?? 'en')
const problem = ref('')
const page = ref<HTMLElement | null>(null)

const hearing = computed(() => project.latest('recognise'))
const active = computed(() => hearing.value?.state === 'running' || hearing.value?.state === 'waiting')
const chosen = computed(() => engines.value.find((candidate) => candidate.name === engine.value))
const models = computed(() =>
  (chosen.value?.models ?? [])
    .map((model) => `${model.name} (${model.languages.length ? model.languages.join(', ') : t('transcribe.manyLanguages')})`)
    .join(', '),
)
const text = computed(() => paragraphs(project.words))
const doubtful = computed(() => project.words.filter((word) => word.confidence < DOUBTFUL).length)
/** Index of the word that is being spoken. */
const spoken = computed(() => {
  const ms = player.timeMs
  let low = 0
  let high = project.words.length
  while (low < high) {
    const middle = (low + high) >> 1
    if (project.words[middle]!.start_ms <= ms) low = middle + 1
    else high = middle
  }
  const word = project.words[low - 1]
  return word && ms < word.end_ms + 200 ? low - 1 : -1
})

onMounted(async () => {
  engines.value = await answered(client.GET('/api/engines'))
  engine.value = engines.value[0]?.name ?? ''
})

// New words come in sight while they are heard, unless the reader has gone elsewhere.
watch(
  () => project.words.length,
  async () => {
    const element = page.value
    if (!active.value || !element) return
    const near = element.scrollHeight - element.scrollTop - element.clientHeight < 160
    await nextTick()
    if (near) element.scrollTop = element.scrollHeight
  },
)

async function recognise() {
  problem.value = ''
  try {
    if (language.value !== project.project!.tracks[0]!.language) await project.change({ language: language.value })
    await project.recognise(engine.value, language.value)
  } catch (error) {
    problem.value = (error as Error).message
  }
}

async function makeCaptions() {
  await track.captionsFromWords()
  await router.push({ name: 'time' })
}

function pressed(event: MouseEvent) {
  const index = (event.target as HTMLElement).dataset.word
  if (index !== undefined) player.place(project.words[Number(index)]!.start_ms)
}
</script>

<template>
  <div class="transcribe">
    <header class="bar">
      <template v-if="project.project?.film.has_sound">
        <v-select
          v-model="engine"
          class="engine"
          :items="engines"
          item-title="title"
          item-value="name"
          :label="t('transcribe.engine')"
          :disabled="active"
        />
        <v-text-field v-model="language" class="language" :label="t('transcribe.language')" :disabled="active" />
        <v-btn
          :color="project.words.length ? undefined : 'primary'"
          :variant="project.words.length ? 'outlined' : 'flat'"
          :disabled="active || !engine"
          data-recognise
          @click="recognise"
        >
          {{ project.words.length ? t('transcribe.again') : t('transcribe.recognise') }}
        </v-btn>
      </template>
      <span class="figures soft">
        <template v-if="project.words.length">
          {{ t('transcribe.words', project.words.length) }} · {{ t('transcribe.doubtful', doubtful) }}
        </template>
      </span>
      <v-btn
        v-if="project.words.length"
        color="primary"
        variant="flat"
        :disabled="active"
        data-make-captions
        @click="makeCaptions"
      >
        {{ track.captions.length ? t('transcribe.makeAgain') : t('transcribe.make') }}
      </v-btn>
    </header>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <div v-if="hearing && hearing.state !== 'done'" class="progress"><JobLine :job="hearing" /></div>

    <div v-if="text.length" ref="page" class="page" tabindex="0" :aria-label="t('transcribe.page')" @click="pressed">
      <section v-for="paragraph in text" :key="paragraph.first" class="paragraph">
        <span class="at time">{{ shortClock(paragraph.startMs).slice(0, -2) }}</span>
        <p>
          <template v-for="(word, i) in paragraph.words" :key="i">
            <span
              :data-word="paragraph.first + i"
              :class="{ doubtful: word.confidence < DOUBTFUL, spoken: spoken === paragraph.first + i }"
              :title="word.confidence < DOUBTFUL ? t('transcribe.sure', { part: Math.round(word.confidence * 100) }) : undefined"
              >{{ word.text }}</span
            >{{ ' ' }}
          </template>
        </p>
      </section>
    </div>
    <div v-else-if="!active" class="none">
      <template v-if="project.project?.film.has_sound">
        <h2>{{ t('transcribe.none.title') }}</h2>
        <p>{{ t('transcribe.none.body') }}</p>
        <p v-if="engines.length" class="soft">{{ t('transcribe.models', { models }) }}</p>
        <p v-else class="soft">{{ t('transcribe.noEngine') }}</p>
        <v-btn :to="{ name: 'bring-in' }">{{ t('transcribe.bringIn') }}</v-btn>
      </template>
      <template v-else>
        <h2>{{ t('transcribe.silent.title') }}</h2>
        <p>{{ t('transcribe.silent.body') }}</p>
        <v-btn color="primary" :to="{ name: 'time' }">{{ t('transcribe.silent.toTime') }}</v-btn>
      </template>
    </div>
  </div>
</template>

<style scoped>
.transcribe {
  display: flex;
  flex-direction: column;
  height: 100%;
}
.bar {
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 10px 16px;
  border-bottom: 1px solid var(--line);
}
.engine {
  flex: 0 0 146px;
}
.language {
  flex: 0 0 108px;
}
.figures {
  margin-left: auto;
  font-size: 13px;
  text-align: right;
  line-height: 1.25;
}
.problem {
  margin: 12px 18px 0;
  color: var(--heather);
}
.progress {
  padding: 12px 18px;
  border-bottom: 1px solid var(--line);
}
.page {
  flex: 1;
  overflow-y: auto;
  padding: 14px 20px 80px;
  outline-offset: -2px;
}
.paragraph {
  display: grid;
  grid-template-columns: 76px minmax(0, 62ch);
  gap: 14px;
  padding: 7px 0;
  content-visibility: auto;
  contain-intrinsic-size: auto 60px;
}
.paragraph p {
  margin: 0;
  font-size: 17px;
  line-height: 1.5;
}
.at {
  padding-top: 4px;
  font-size: 12px;
  text-align: right;
  color: var(--soft);
}
[data-word] {
  cursor: pointer;
  border-radius: 3px;
}
[data-word]:hover {
  background: var(--sand-deep);
}
.doubtful {
  border-bottom: 2px dotted var(--straw-bright);
}
.spoken {
  background: var(--russet-wash);
  box-shadow: 0 2px 0 var(--russet);
}
.none {
  max-width: 460px;
  padding: 60px 40px;
}
.none h2 {
  margin: 0 0 8px;
  font-size: 20px;
}
</style>
