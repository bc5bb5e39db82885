<script setup lang="ts">
import { mdiRedo, mdiUndo, mdiWeatherNight, mdiWhiteBalanceSunny } from '@mdi/js'
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

import type { JobView, Spec } from '@/api/client'
import { useProject } from '@/session/projectStore'
import { useHistory } from '@/session/historyStore'
import { useTrack } from '@/session/tracksStore'
import { languageName } from '@/kit/i18n'
import JobLine from '@/kit/JobLine.vue'
import { light, lightChoice } from '@/kit/theme'
import { useSaving } from '@/workspace/useSaving'
import ProjectTitle from '@/workspace/ProjectTitle.vue'
import CommandSearch from '@/workspace/CommandSearch.vue'
import { titleOf } from '@/kit/commands/titles'
import { run } from '@/kit/commands/commands'

const { t } = useI18n()
const project = useProject()
const track = useTrack()
const history = useHistory()

const saving = useSaving()
const leading = computed<JobView | undefined>(() => project.busy.find((job) => job.state === 'running') ?? project.busy[0])
function limits(spec: Spec): string {
  return [
    spec.characters_per_line && t('top.line', { value: spec.characters_per_line }),
    spec.lines && t('top.lines', spec.lines),
    spec.reading_speed && t('top.speed', { value: spec.reading_speed }),
  ]
    .filter(Boolean)
    .join(', ')
}
function judgeBy(spec: Spec) {
  void (project.trackInfo?.spec_id ? project.changeTrack({ spec_id: spec.id }) : project.change({ spec_id: spec.id }))
}
/** A spec for this track alone, or again that of the project. */
function ownSpec() {
  void project.changeTrack({ spec_id: project.trackInfo?.spec_id ? null : track.spec!.id })
}
async function setLanguage(event: Event) {
  const field = event.target as HTMLInputElement
  try {
    await project.changeTrack({ language: field.value.trim() })
  } catch (refused) {
    track.refusal = (refused as Error).message
    field.value = project.trackInfo?.language ?? ''
  }
}
function switchLight() {
  lightChoice.value = light.value === 'night' ? 'day' : 'night'
}
</script>

<template>
  <header class="top">
    <ProjectTitle />
    <v-menu>
      <template #activator="{ props: menu }">
        <v-btn v-bind="menu" size="small" class="spec" data-track>{{ t('top.track', { language: project.trackInfo?.language }) }}</v-btn>
      </template>
      <v-list density="compact" :aria-label="t('top.tracks')">
        <v-list-item
          v-for="info in project.project?.tracks"
          :key="info.id"
          :active="info.id === track.id"
          :title="info.name || info.language"
          :subtitle="info.name ? info.language : undefined"
          @click="project.openTrack(info.id)"
        />
        <label class="own-language" @click.stop>
          {{ t('top.language') }}
          <input class="field" :value="project.trackInfo?.language" :title="t('top.languageHint')" data-track-language @change="setLanguage" @keydown.stop />
          <span class="soft">{{ languageName(project.trackInfo?.language ?? '') }}</span>
        </label>
        <v-list-item :title="t('top.bringIn')" :to="{ name: 'bring-in' }" />
        <v-list-item :title="t('top.bringInScript')" :to="{ name: 'script' }" />
        <v-list-item :title="t('command.film')" data-film @click="run('film')" />
      </v-list>
    </v-menu>
    <v-menu>
      <template #activator="{ props: menu }">
        <v-btn v-bind="menu" size="small" class="spec" data-spec>{{ t('top.spec', { spec: track.spec?.name }) }}</v-btn>
      </template>
      <v-list density="compact" :aria-label="t('top.specs')">
        <v-list-item
          v-for="spec in project.specs"
          :key="spec.id"
          :active="spec.id === track.spec?.id"
          :title="spec.name"
          :subtitle="limits(spec)"
          @click="judgeBy(spec)"
        />
        <v-list-item v-if="(project.project?.tracks.length ?? 0) > 1" :active="Boolean(project.trackInfo?.spec_id)" :title="t('top.ownSpec')" @click="ownSpec" />
        <v-list-item :title="t('check.editSpec')" :to="{ name: 'spec' }" data-edit-limits />
      </v-list>
    </v-menu>
    <CommandSearch />
    <span class="saved" :class="saving" role="status" data-saved>
      {{ t(`top.${saving}`) }}
    </span>
    <v-btn
      size="small" icon variant="text" density="compact" :disabled="!history.canUndo" :aria-label="t('command.undo')" :title="titleOf('undo')"
      @click="run('undo')"
    >
      <v-icon :icon="mdiUndo" />
    </v-btn>
    <v-btn
      size="small" icon variant="text" density="compact" :disabled="!history.canRedo" :aria-label="t('command.redo')" :title="titleOf('redo')"
      @click="run('redo')"
    >
      <v-icon :icon="mdiRedo" />
    </v-btn>
    <v-menu v-if="leading" :close-on-content-click="false">
      <template #activator="{ props: menu }">
        <v-btn v-bind="menu" size="small" data-jobs>
          {{ t(`job.short.${leading.kind}`) }} {{ Math.round(leading.progress * 100) }} %
        </v-btn>
      </template>
      <div class="jobs">
        <JobLine v-for="job in project.busy" :key="job.id" :job="job" />
      </div>
    </v-menu>
    <v-btn size="small" icon variant="text" density="compact" :aria-label="t('top.light')" @click="switchLight">
      <v-icon :icon="light === 'night' ? mdiWhiteBalanceSunny : mdiWeatherNight" />
    </v-btn>
  </header>
</template>

<style scoped>
.top {
  grid-column: 2 / -1;
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 0 14px;
  border-bottom: 1px solid var(--line);
  min-width: 0;
}
/* In a narrow window, or a much enlarged one, what has no room is scrolled to. */
@media (max-width: 900px) {
  .top {
    overflow-x: auto;
    scrollbar-width: none;
  }
  .top > * {
    flex-shrink: 0;
  }
}
.spec {
  flex: none;
}
.own-language {
  display: grid;
  gap: 2px;
  padding: 6px 16px 8px;
  font-size: 13px;
}
.own-language input {
  width: 120px;
}
.saved {
  flex: none;
  color: var(--reed);
  font-size: 13px;
}
.saved.waiting {
  color: var(--heather);
  font-weight: 600;
}
.saved.saving {
  color: var(--soft);
}
.jobs {
  width: 340px;
  padding: 12px 14px;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 6px;
}
</style>
