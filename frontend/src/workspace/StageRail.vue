<script setup lang="ts">
/** The stages, each with a small mark for how far it is. */
import { useEventListener } from '@vueuse/core'
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRoute } from 'vue-router'

import { useProject } from '@/session/projectStore'
import { openFindings } from '@/session/captions'
import { useTranslation } from '@/session/translationStore'
import { useTrack } from '@/session/tracksStore'
import { usePlayer } from '@/picture/playerStore'
import { beginSurface } from '@/picture/surfaces'
import { fetchStage, type Stage, STAGES } from '@/router'
import { askEarly } from '@/stages/style/specimens'

const SHAPES: Record<Stage, string> = {
  transcribe: 'M4 5h16M4 10h16M4 15h10M18 14l2 2-4 4h-2v-2z',
  time: 'M12 3v18M8 7v4M16 6v6M8 15v3M16 15v4M4 10v4M20 9v5',
  style: 'M4 20L12 4l8 16M7.500 14h9',
  translate: 'M4 5h9M8.500 3v2M11 5c-1 4-4 7-7 8M6 8c1 2 3 4 6 5M11 21l4.500-10L20 21M12.500 18h6',
  check: 'M5 13l4 4L19 6',
  deliver: 'M12 4v11M7 11l5 5 5-5M4 20h16',
}

const { t } = useI18n()
const route = useRoute()
const project = useProject()
const track = useTrack()
const translation = useTranslation()
const player = usePlayer()

const parts = computed<Record<Stage, number>>(() => {
  const captions = track.captions
  const hearing = project.latest('recognise')
  const clean = captions.filter((caption) => !openFindings(caption).length).length
  const styled = captions.filter((caption) => caption.style ?? caption.look ?? caption.placement).length
  const reached = captions.at(-1)?.out_ms ?? 0
  return {
    transcribe: hearing?.state === 'running' ? hearing.progress : project.words.length || captions.length ? 1 : 0,
    time: project.durationMs ? Math.min(reached / project.durationMs, 1) : 0,
    style: captions.length ? styled / captions.length : 0,
    translate: translation.done.of ? translation.done.count / translation.done.of : 0,
    check: captions.length ? clean / captions.length : 0,
    deliver: project.jobs.some(({ kind, state }) => (kind === 'burn' || kind === 'pack') && state === 'done') ? 1 : 0,
  }
})
/** A hand comes near: what the stage takes longest to begin with is begun. */
function near(stage: Stage) {
  fetchStage(stage)
  if (stage === 'style' && route.name !== 'style') {
    beginSurface()
    askEarly(track.id)
  }
}
// Who holds the key that stages are gone to with comes near to them, too. While the film plays it stops and winds it.
useEventListener(window, 'keydown', ({ key, repeat }) => key === 'Alt' && !repeat && !player.playing && near('style'))
</script>

<template>
  <nav class="rail" :aria-label="t('rail.label')">
    <router-link :to="{ name: 'projects' }" class="home" :aria-label="t('rail.projects')">
      <svg width="50" height="40" viewBox="0 0 50 40" aria-hidden="true">
        <path d="M6 27c5-9 13-14 22-13 3-5 8-6 11-3 3 2 4 6 8 11-5-4-8-6-11-5-1 7-6 12-14 12-6 0-11-1-16-2z" fill="var(--russet)" />
        <path d="M19 27c4 3 10 2 14-3 0 4-5 7-9 6z" fill="var(--ink)" />
        <circle cx="38" cy="12.5" r="1.1" fill="var(--paper)" />
        <path d="M23 30v8M28 29v8" stroke="var(--ink)" stroke-width="1.5" />
      </svg>
    </router-link>
    <router-link v-for="stage in STAGES" :key="stage" :to="{ name: stage }" class="stage" active-class="on" :data-stage="stage" @pointerenter="near(stage)" @focus="near(stage)">
      <svg viewBox="0 0 24 24" aria-hidden="true"><path :d="SHAPES[stage]" /></svg>
      {{ t(`stage.${stage}`) }}
      <span class="part"><i :style="{ width: `${parts[stage] * 100}%` }" /></span>
    </router-link>
  </nav>
</template>

<style scoped>
.rail {
  grid-row: 1 / 4;
  display: flex;
  flex-direction: column;
  align-items: center;
  padding-top: 8px;
  background: var(--sand-deep);
  border-right: 1px solid var(--line);
}
.home {
  margin-bottom: 8px;
}
.stage {
  position: relative;
  width: 72px;
  padding: 9px 0 8px;
  text-align: center;
  text-decoration: none;
  font-size: 12px;
  color: var(--soft);
}
.stage svg {
  display: block;
  width: 22px;
  height: 22px;
  margin: 0 auto 3px;
  fill: none;
  stroke: currentColor;
  stroke-width: 1.6;
}
.stage:hover {
  color: var(--ink);
}
.stage.on {
  color: var(--russet);
  background: var(--sand);
  font-weight: 650;
}
.stage.on::before {
  content: '';
  position: absolute;
  left: 0;
  top: 0;
  bottom: 0;
  width: 3px;
  background: var(--russet);
}
.part {
  display: block;
  width: 34px;
  height: 3px;
  margin: 4px auto 0;
  background: var(--line);
  border-radius: 2px;
  overflow: hidden;
}
.part i {
  display: block;
  height: 100%;
  background: var(--reed);
}
</style>
