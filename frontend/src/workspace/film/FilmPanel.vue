<script setup lang="ts">
/** The project's film: brought in when it is there, exchanged for another cut or a better copy, or taken back. */
import { ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import type { Schemas } from '@/api/client'
import { useCommands } from '@/kit/commands/commands'
import { useFocusReturn } from '@/kit/focusReturn'
import PanelHead from '@/kit/PanelHead.vue'
import SendingLine from '@/kit/SendingLine.vue'
import { dayAndTime, fileSize, framesPerSecond, minutes, RATES } from '@/kit/time'
import { goTo } from '@/router'
import { useProject } from '@/session/projectStore'
import { useRetime } from '@/stages/time/retimeStore'
import { useFilm } from '@/workspace/film/filmStore'
import TracksBrought from '@/workspace/film/TracksBrought.vue'

const { t } = useI18n()
const project = useProject()
const film = useFilm()
const retime = useRetime()
const picker = ref<HTMLInputElement | null>(null)
const panel = ref<HTMLElement | null>(null)
const leaving = ref('')

useCommands([{ id: 'panel-close', run: () => (film.open = false) }])

const focusFirst = () => panel.value?.querySelector<HTMLElement>('[data-exchange], [data-find-place], [data-pick-film]')?.focus()
useFocusReturn(focusFirst)
// What had the focus is gone with what was asked.
watch([() => film.sending === null, () => film.offered, () => film.isNew], focusFirst, { flush: 'post' })

function picked() {
  const file = picker.value?.files?.[0]
  if (picker.value) picker.value.value = ''
  if (file) void film.put(file)
}

const facts = (one: Schemas['FilmView']) =>
  [
    minutes(one.duration_ms),
    one.has_picture ? `${one.width} × ${one.height}` : t('player.soundOnly'),
    t('film.fps', { fps: framesPerSecond(one.frame_rate) }),
    fileSize(one.size_bytes),
  ].join(' · ')

async function findPlace() {
  film.open = false
  film.isNew = false
  await goTo('time')
  await retime.fromSound(true)
}

async function remove(one: Schemas['FilmView']) {
  leaving.value = ''
  await film.remove(one)
}
</script>

<template>
  <section ref="panel" class="panel" :aria-label="t('film.title')" data-film-panel @keydown.esc.stop="film.open = false">
    <PanelHead :title="t('film.title')" @close="film.open = false" />
    <SendingLine v-if="film.sending" :sending="film.sending" @stop="film.stop" />
    <template v-else-if="film.offered">
      <p>{{ t('film.exchange', { film: film.offered.name, shown: project.project?.film.label }) }}</p>
      <p class="soft">{{ t('film.stays') }}</p>
      <div class="line">
        <v-btn color="primary" variant="flat" size="small" data-exchange @click="film.put(film.offered)">{{ t('film.put') }}</v-btn>
        <v-btn size="small" @click="film.offered = null">{{ t('job.cancel') }}</v-btn>
      </div>
    </template>
    <template v-else>
      <template v-if="project.hasFilm">
        <p><b>{{ project.project!.film.label }}</b><br><span class="soft">{{ facts(project.project!.film) }}</span></p>
        <div v-if="film.isNew" class="new" role="status" data-new-film>
          <p>{{ t('film.isNew') }}</p>
          <v-btn v-if="project.project!.film.has_sound" color="primary" variant="flat" size="small" data-find-place @click="findPlace">{{ t('film.findPlace') }}</v-btn>
        </div>
        <p v-else class="soft">{{ t('film.another') }}</p>
        <TracksBrought :key="project.project!.film.id" />
      </template>
      <template v-else>
        <p class="soft">{{ t('film.later') }}</p>
        <label class="rate">
          {{ t('film.rate') }}
          <select class="field" :value="framesPerSecond(project.rate)" data-film-rate @change="film.setRate(($event.target as HTMLSelectElement).value)">
            <option v-for="rate in RATES" :key="rate" :value="rate">{{ rate }}</option>
          </select>
        </label>
      </template>
      <v-btn :color="project.hasFilm ? undefined : 'primary'" :variant="project.hasFilm ? 'outlined' : 'flat'" size="small" data-pick-film @click="picker?.click()">
        {{ project.hasFilm ? t('film.pickAnother') : t('film.pick') }}
      </v-btn>
      <input ref="picker" type="file" accept="video/*,audio/*,.mkv,.mxf,.ts,.mts" hidden data-film-file @change="picked">
    </template>
    <p v-if="film.problem" class="problem" role="alert">{{ film.problem }}</p>
    <template v-if="film.earlier.length && !film.sending">
      <h3 class="section-title">{{ t('film.earlier') }}</h3>
      <ul>
        <li v-for="one in film.earlier" :key="one.id">
          <p>{{ one.label }}<br><span class="soft">{{ t('film.came', { when: dayAndTime(one.came_ms) }) }} · {{ facts(one) }}</span></p>
          <div class="line">
            <template v-if="leaving === one.id">
              <v-btn size="small" color="error" data-delete-film @click="remove(one)">{{ t('film.deleteNow') }}</v-btn>
              <v-btn size="small" @click="leaving = ''">{{ t('projects.keep') }}</v-btn>
            </template>
            <template v-else>
              <v-btn size="small" data-show-again @click="film.showAgain(one)">{{ t('film.again') }}</v-btn>
              <v-btn size="small" variant="text" @click="leaving = one.id">{{ t('film.delete') }}</v-btn>
            </template>
          </div>
        </li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  justify-items: start;
  gap: 10px;
  padding: 12px 16px 14px;
  font-size: 13.5px;
  border-bottom: 1px solid var(--line);
}
.panel > :deep(header),
ul,
.rate {
  width: 100%;
}
p,
h3 {
  margin: 0;
  overflow-wrap: anywhere;
}
.problem {
  color: var(--heather);
}
.line {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.rate {
  display: flex;
  align-items: center;
  gap: 8px;
}
.new {
  display: grid;
  justify-items: start;
  gap: 8px;
  padding: 10px 12px;
  border: 1px solid var(--line);
  border-left: 3px solid var(--straw);
  border-radius: 6px;
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  gap: 6px;
  padding: 8px 0;
  border-top: 1px solid var(--line);
}
</style>
