<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { useStorage } from '@vueuse/core'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRouter } from 'vue-router'

import { answered, client, type ProjectView, type Schemas } from '@/api/client'
import { languageInName, sortedByKind } from '@/api/fileKinds'
import SendingLine from '@/kit/SendingLine.vue'
import { dayAndTime, minutes } from '@/kit/time'
import { useFilmUpload } from '@/session/filmUpload'
import { usePeople } from '@/session/people'
import { useBringIn } from '@/stages/bring-in/bringInStore'
import LeaveProject from '@/stages/projects/LeaveProject.vue'
import { useScript } from '@/stages/transcribe/script/scriptStore'

const { t } = useI18n()
const router = useRouter()
const people = usePeople()

const projects = shallowRef<ProjectView[]>([])
/** What is stored of them cannot be read any more. */
const damaged = shallowRef<Schemas['DamagedView'][]>([])
const loaded = ref(false)
const unreachable = ref(false)
const dragging = ref(false)
const picker = ref<HTMLInputElement | null>(null)
const { sending, problem, send, stop } = useFilmUpload()
const bringIn = useBringIn()
const script = useScript()
const leaving = ref<string | null>(null)
/** What is spoken in the next film: asked once, and remembered. */
const language = useStorage('dunlin.spoken-language', 'en')

onMounted(load)

async function load() {
  try {
    ;[projects.value, damaged.value] = await Promise.all([
      answered(client.GET('/api/projects')), answered(client.GET('/api/damaged-projects')), people.load(),
    ])
    unreachable.value = false
  } catch {
    unreachable.value = true
  }
  loaded.value = true
}

/** Begins a project with files: a film, captions or a script, or some of them together. */
async function take(files: readonly File[]) {
  if (!files.length || sending.value) return
  problem.value = ''
  try {
    const { films, captions, scripts } = await sortedByKind(files)
    const named = captions[0] ?? scripts[0]
    const project = films[0]
      ? await send('/api/projects', films[0], { language: languageOf(films[0].name) })
      : await withoutFilm(named!.name)
    if (!project) return
    if (captions.length) bringIn.choose(captions)
    else if (scripts[0]) script.file = scripts[0]
    const stage = captions.length ? 'bring-in' : scripts.length ? 'script' : project.film.has_sound ? 'transcribe' : 'time'
    // An upright film is mostly one to be watched without its sound, a few words at a time.
    const inShort = stage === 'transcribe' && project.film.height > project.film.width
    await router.push({ name: inShort ? 'style' : stage, params: { projectId: project.id }, query: inShort ? { view: 'short' } : {} })
  } catch (error) {
    problem.value = (error as Error).message
  }
}

const languageOf = (name: string) => languageInName(name) ?? (language.value.trim() || 'en')

function withoutFilm(name: string): Promise<ProjectView> {
  return answered(client.POST('/api/projects/without-film', { body: { title: name, language: languageOf(name) } }))
}

async function beginWithNothing() {
  try {
    const { id } = await withoutFilm(t('projects.untitled'))
    await router.push({ name: 'time', params: { projectId: id } })
  } catch (error) {
    problem.value = (error as Error).message
  }
}

function picked() {
  void take([...(picker.value?.files ?? [])])
  if (picker.value) picker.value.value = ''
}

useEventListener(window, 'dragover', (event) => {
  event.preventDefault()
  dragging.value = true
})
useEventListener(window, 'dragleave', (event) => {
  if (event.relatedTarget === null) dragging.value = false
})
useEventListener(window, 'drop', (event) => {
  event.preventDefault()
  dragging.value = false
  void take([...(event.dataTransfer?.files ?? [])])
})

async function nameMyself(name: string) {
  try {
    await people.nameMyself(name)
  } catch (error) {
    problem.value = (error as Error).message
  }
}

async function remove(project: { id: string }) {
  await answered(client.DELETE('/api/projects/{project_id}', { params: { path: { project_id: project.id } } }))
  leaving.value = null
  await load()
}

const empty = computed(() => loaded.value && !projects.value.length && !damaged.value.length && !unreachable.value)

function state(project: ProjectView): string {
  const job = project.jobs.find((candidate) => candidate.state === 'running' || candidate.state === 'waiting')
  if (job) return `${t(`job.kind.${job.kind}`)} ${Math.round(job.progress * 100)}\u00a0%`
  if (project.caption_count) return t('projects.captions', project.caption_count)
  return project.word_count ? t('projects.words', project.word_count) : t('projects.fresh')
}
</script>

<template>
  <main class="projects" :class="{ dragging }">
    <header>
      <img src="/dunlin.svg" alt="" width="64" height="56" />
      <div>
        <h1>Dunlin</h1>
        <p class="soft">{{ t('projects.tagline') }}</p>
      </div>
      <v-text-field
        class="your-name" :model-value="people.ownName" :label="t('projects.yourName')" :title="t('projects.nameShown')" maxlength="60"
        density="compact" variant="outlined" hide-details autocomplete="name" data-your-name
        @change="nameMyself(($event.target as HTMLInputElement).value)"
      />
      <router-link :to="{ name: 'about' }" class="about" data-about>{{ t('about.link') }}</router-link>
    </header>

    <section class="bring" :class="{ dragging }" :aria-label="t('projects.new')">
      <SendingLine v-if="sending" :sending="sending" @stop="stop" />
      <template v-else>
        <p class="ask">{{ dragging ? t('projects.drop') : t('projects.ask') }}</p>
        <v-btn color="primary" variant="flat" data-pick @click="picker?.click()">{{ t('projects.pick') }}</v-btn>
        <input ref="picker" type="file" multiple hidden @change="picked" />
        <label class="spoken">
          {{ t('projects.language') }}
          <input v-model="language" class="field" maxlength="20" :title="t('top.languageHint')" spellcheck="false" data-spoken-language />
        </label>
        <p class="soft">{{ t('projects.stays') }} {{ t('projects.filmLater') }}
          <router-link :to="{ name: 'hosts' }" class="begin" data-from-host>{{ t('projects.fromHost') }}</router-link>
          <button type="button" class="begin" data-begin-with-nothing @click="beginWithNothing">{{ t('projects.nothing') }}</button>
        </p>
      </template>
      <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    </section>

    <p v-if="unreachable" class="problem" role="alert">
      {{ t('projects.unreachable') }} <v-btn size="small" @click="load">{{ t('job.retry') }}</v-btn>
    </p>
    <p v-if="empty" class="soft">{{ t('projects.empty') }}</p>

    <ul v-if="damaged.length" class="list" :aria-label="t('projects.damagedList')">
      <li v-for="project in damaged" :key="project.id" class="row damaged" data-damaged>
        <div class="open">
          <span class="poster" />
          <span class="name">
            <b>{{ project.title || t('projects.untitled') }}</b>
            <span class="problem">{{ t('projects.damaged') }}</span>
          </span>
          <a :href="`/api/projects/${project.id}/rescue`" download data-rescue>{{ t('projects.rescue') }}</a>
          <span class="soft when">{{ t('projects.opened', { when: dayAndTime(project.opened_ms) }) }}</span>
        </div>
        <LeaveProject :title="project.title" :asked="leaving === project.id" @ask="leaving = project.id" @keep="leaving = null" @remove="remove(project)" />
      </li>
    </ul>

    <ul v-if="projects.length" class="list" :aria-label="t('projects.list')">
      <li v-for="project in projects" :key="project.id" class="row">
        <router-link :to="{ name: project.caption_count ? 'time' : 'transcribe', params: { projectId: project.id } }" class="open">
          <span class="poster">
            <video
              v-if="project.film.playable && project.film.has_picture"
              :src="`/api/films/${project.film.id}/file#t=3`"
              preload="metadata"
              muted
              tabindex="-1"
              aria-hidden="true"
            />
          </span>
          <span class="name">
            <b>{{ project.title }}</b>
            <span class="soft">{{ project.film.id ? `${project.film.label} · ${minutes(project.film.duration_ms)}` : t('film.none') }} · {{ project.tracks[0]?.language }}</span>
          </span>
          <span class="state">{{ state(project) }}</span>
          <span class="soft when">{{ t('projects.opened', { when: dayAndTime(project.opened_ms) }) }}</span>
        </router-link>
        <LeaveProject :title="project.title" :asked="leaving === project.id" @ask="leaving = project.id" @keep="leaving = null" @remove="remove(project)" />
      </li>
    </ul>
  </main>
</template>

<style scoped>
.begin {
  padding: 0;
  margin-right: 10px;
  color: var(--tide);
  text-decoration: underline;
}
.spoken {
  display: flex;
  align-items: center;
  justify-content: center;
  gap: 8px;
  margin-top: 10px;
  font-size: 13px;
}
.spoken input {
  width: 72px;
  padding: 2px 8px;
}
.projects {
  height: 100vh;
  overflow-y: auto;
  padding: 36px max(40px, calc(50vw - 480px)) 60px;
}
.your-name {
  flex: 0 1 200px;
  margin-left: auto;
}
header {
  display: flex;
  align-items: center;
  gap: 16px;
  margin-bottom: 26px;
}
h1 {
  margin: 0;
  font-size: 26px;
}
header p {
  margin: 0;
}
.bring {
  display: grid;
  justify-items: start;
  gap: 10px;
  padding: 22px 26px;
  margin-bottom: 26px;
  background: var(--paper);
  border: 1px solid var(--line);
  border-left: 4px solid var(--russet);
  border-radius: 6px;
}
.bring.dragging {
  background: var(--russet-wash);
  border-color: var(--russet);
}
.bring p {
  margin: 0;
}
.ask {
  font-size: 17px;
  font-weight: 600;
}
.problem {
  color: var(--heather);
}
.list {
  margin: 0;
  padding: 0;
  list-style: none;
}
.row {
  display: flex;
  align-items: center;
  gap: 8px;
  border-top: 1px solid var(--line);
}
.list:last-child .row:last-child {
  border-bottom: 1px solid var(--line);
}
.open {
  flex: 1;
  min-width: 0;
  display: grid;
  grid-template-columns: 96px minmax(0, 1fr) 150px 200px;
  align-items: center;
  gap: 16px;
  padding: 10px 6px;
  color: inherit;
  text-decoration: none;
}
.damaged a {
  font-size: 13px;
  color: var(--tide);
}
.damaged .poster {
  background: repeating-linear-gradient(135deg, var(--sand-deep) 0 6px, var(--line) 6px 7px);
}
a.open:hover b {
  color: var(--russet);
}
.poster {
  display: block;
  width: 96px;
  height: 54px;
  background: var(--sand-deep);
  border-radius: 4px;
  overflow: hidden;
}
.poster video {
  width: 100%;
  height: 100%;
  object-fit: cover;
}
.name {
  display: grid;
}
.name b {
  font-size: 16px;
}
.name > * {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.when {
  font-size: 13px;
}
</style>
