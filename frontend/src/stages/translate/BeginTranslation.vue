<script setup lang="ts">
/** A language is begun: of which captions, with which, and by which limits. */
import { computed, onMounted, ref } from 'vue'
import { useI18n } from 'vue-i18n'

import type { Schemas } from '@/api/client'
import ChoiceRow from '@/kit/ChoiceRow.vue'
import LanguageField from '@/kit/LanguageField.vue'
import { languageName } from '@/kit/i18n'
import { useProject } from '@/session/projectStore'
import { useTrack, useTracks } from '@/session/tracksStore'
import { useTranslation } from '@/session/translationStore'

defineProps<{ isFirst: boolean }>()
const emit = defineEmits<{ close: [] }>()

const { t } = useI18n()
const project = useProject()
const tracks = useTracks()
const track = useTrack()
const translation = useTranslation()

const listed = computed(() => project.project?.tracks ?? [])
const language = ref('')
const spec = ref('')
const source = ref(translation.pair?.source ?? track.id)
const sourceInfo = computed(() => listed.value.find(({ id }) => id === source.value))
/** Until they are read, a track is taken to have captions: Enter may be pressed before that. */
const hasCaptions = computed(() => source.value !== '' && (source.value !== track.id || !track.loaded || track.captions.length > 0))
type Way = NonNullable<Schemas['TranslationRequest']['beginning']> | 'file'
const chosen = ref<Way | null>(null)
const usual = computed<Way>(() => (hasCaptions.value ? 'captions' : project.words.length ? 'words' : 'nothing'))
const ways = computed(() => [
  ...(source.value ? [{ value: 'captions' as const, title: t('translate.begin.captions') }] : []),
  ...(hasCaptions.value ? [{ value: 'file' as const, title: t('translate.begin.file') }] : []),
  ...(project.words.length ? [{ value: 'words' as const, title: t('translate.begin.words') }] : []),
  { value: 'nothing' as const, title: t('translate.begin.nothing') },
])
const way = computed({
  get: () => ways.value.find(({ value }) => value === (chosen.value ?? usual.value))?.value ?? ways.value[0]!.value,
  set: (now) => (chosen.value = now),
})
/** A track in another language that is there already may be what was translated elsewhere. */
const others = computed(() => listed.value.filter(({ id, translates }) => !translates && id !== source.value && id !== sourceInfo.value?.translates))
const under = ref(false)
const problem = ref('')

const field = ref<InstanceType<typeof LanguageField> | null>(null)
onMounted(() => field.value?.focus())

/** What was translated elsewhere; and what of it found no place. */
const file = ref<File | null>(null)
const picker = ref<HTMLInputElement | null>(null)
const leftOver = ref<string[]>([])
const doubtful = ref(0)
const isReady = computed(() => Boolean(language.value) && (way.value !== 'file' || file.value !== null))
function picked(event: Event) {
  file.value = (event.target as HTMLInputElement).files?.[0] ?? null
}
function dropped(event: DragEvent) {
  const [first] = event.dataTransfer?.files ?? []
  if (!first) return
  file.value = first
  chosen.value = 'file'
}

async function beginFromFile() {
  const begun = await translation.beginFromFile(file.value!, source.value, language.value, spec.value || null)
  leftOver.value = begun.left_over
  doubtful.value = begun.doubtful
  if (!begun.left_over.length) emit('close')
}
async function begin() {
  if (!isReady.value || under.value) return
  under.value = true
  problem.value = ''
  try {
    if (way.value === 'file') return await beginFromFile()
    await translation.begin({
      source: source.value || null, language: language.value, name: '', spec_id: spec.value || null, beginning: way.value,
    })
    emit('close')
  } catch (refused) {
    problem.value = (refused as Error).message
  } finally {
    under.value = false
  }
}
async function take(id: string) {
  const from = source.value
  await tracks.select(id)
  try {
    await translation.translateFrom(from)
    emit('close')
  } catch (refused) {
    problem.value = (refused as Error).message
  }
}
</script>

<template>
  <section v-if="leftOver.length" class="begin" :aria-label="t('translate.begin.leftTitle')" data-left-over>
    <h1>{{ t('translate.begin.leftTitle', leftOver.length) }}</h1>
    <p class="soft">{{ t('translate.begin.leftAbout') }} <template v-if="doubtful">{{ t('translate.begin.doubtful', doubtful) }}</template></p>
    <ul>
      <li v-for="(line, index) in leftOver" :key="index">{{ line }}</li>
    </ul>
    <p><v-btn color="primary" autofocus data-go-on @click="emit('close')">{{ t('translate.begin.goOn') }}</v-btn></p>
  </section>
  <form v-else class="begin" :aria-label="t('translate.begin.title')" @submit.prevent="begin" @dragover.prevent @drop.prevent="dropped" @keydown.esc="!isFirst && emit('close')">
    <h1>{{ t('translate.begin.title') }}</h1>
    <p class="soft">{{ t('translate.begin.about') }}</p>
    <label>
      <span>{{ t('translate.begin.language') }}</span>
      <LanguageField ref="field" v-model="language" :placeholder="t('translate.begin.example')" />
    </label>
    <label>
      <span>{{ t('translate.begin.source') }}</span>
      <select v-model="source" class="field" data-source>
        <option v-for="info in listed" :key="info.id" :value="info.id">{{ [languageName(info.language), info.name].filter(Boolean).join(', ') }}</option>
        <option value="">{{ t('translate.begin.listening') }}</option>
      </select>
    </label>
    <div class="row">
      <span>{{ t('translate.begin.with') }}</span>
      <ChoiceRow v-model="way" :label="t('translate.begin.with')" :options="ways" />
    </div>
    <p class="soft told">{{ t(`translate.begin.what.${way}`) }}</p>
    <p v-if="way === 'file'" class="row">
      <span>{{ t('translate.begin.fileLabel') }}</span>
      <v-btn size="small" data-pick @click="picker?.click()">{{ file?.name ?? t('translate.begin.pick') }}</v-btn>
      <input ref="picker" type="file" class="visually-hidden" tabindex="-1" :aria-label="t('translate.begin.pick')" data-begin-file @change="picked" />
    </p>
    <label>
      <span>{{ t('translate.begin.spec') }}</span>
      <select v-model="spec" class="field" data-begin-spec>
        <option value="">{{ t('translate.begin.sameSpec') }}</option>
        <option v-for="one in project.specs" :key="one.id" :value="one.id">{{ one.name }}</option>
      </select>
    </label>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <p class="row">
      <v-btn type="submit" color="primary" :disabled="!isReady || under" data-begin>{{ language ? t('translate.begin.go', { language: languageName(language) }) : t('translate.begin.goAny') }}</v-btn>
      <v-btn v-if="!isFirst" variant="text" @click="emit('close')">{{ t('translate.begin.cancel') }}</v-btn>
    </p>
    <template v-if="others.length && source">
      <p class="soft">{{ t('translate.begin.there') }}</p>
      <p v-for="info in others" :key="info.id" class="row">
        <v-btn size="small" :data-take="info.id" @click="take(info.id)">{{ t('translate.begin.take', { name: info.name || languageName(info.language) }) }}</v-btn>
      </p>
    </template>
  </form>
</template>

<style scoped>
.begin {
  overflow-y: auto;
  padding: 44px 48px;
  display: grid;
  gap: 14px;
  align-content: start;
  max-width: 700px;
}
ul {
  margin: 0;
  padding-left: 18px;
}
h1 {
  margin: 0;
  font-size: 20px;
}
p {
  margin: 0;
}
label,
.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 14px;
}
label > span:first-child,
.row > span:first-child {
  width: 150px;
  color: var(--soft);
}
.told {
  padding-left: 164px;
  margin-top: -8px;
  font-size: 13px;
}
.problem {
  color: var(--heather);
}
</style>
