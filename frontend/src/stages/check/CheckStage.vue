<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRouter } from 'vue-router'

import type { Finding } from '@/api/client'
import { usePlayer } from '@/player/playerStore'
import { textOf } from '@/project/captions'
import { useProject } from '@/project/projectStore'
import { useTrack } from '@/project/trackStore'
import { useSelection } from '@/score/selectionStore'
import { useCommands } from '@/shared/commands'
import { findingText } from '@/shared/findings'
import { shortClock } from '@/shared/time'

const { t } = useI18n()
const router = useRouter()
const project = useProject()
const track = useTrack()
const player = usePlayer()
const selection = useSelection()

const RULES = ['overlap', 'gap', 'line-length', 'lines', 'reading-speed', 'least-duration', 'greatest-duration']
/** More places than anybody reads at once; the rest come when these are mended. */
const MOST_SHOWN = 300

const rule = ref<string | null>(null)
const at = ref(0)

interface Place {
  finding: Finding
  number: number
  text: string
}

const all = computed<Place[]>(() =>
  track.captions.flatMap((caption, index) =>
    caption.findings.map((finding) => ({ finding, number: index + 1, text: textOf(caption) })),
  ),
)
const groups = computed(() =>
  RULES.map((name) => ({ name, count: all.value.filter((place) => place.finding.rule === name).length })),
)
const places = computed(() => (rule.value ? all.value.filter((place) => place.finding.rule === rule.value) : all.value))

watch(places, (now) => (at.value = Math.min(at.value, Math.max(now.length - 1, 0))))

function show(index: number) {
  const place = places.value[index]
  if (!place) return
  at.value = index
  selection.only(place.finding.caption)
  player.place(place.finding.in_ms)
  void nextTick(() => document.querySelector('.place.on')?.scrollIntoView({ block: 'nearest' }))
}

function goThere() {
  show(at.value)
  void router.push({ name: 'time' })
}

function choose(name: string | null) {
  rule.value = name
  at.value = 0
}

useCommands([
  { id: 'finding-next', keys: ['ArrowDown'], run: () => show(at.value + 1), enabled: () => places.value.length > 0 },
  { id: 'finding-before', keys: ['ArrowUp'], run: () => show(Math.max(at.value - 1, 0)), enabled: () => places.value.length > 0 },
  { id: 'finding-go', keys: ['Enter'], run: goThere, enabled: () => places.value.length > 0 },
])
</script>

<template>
  <div class="check">
    <nav class="rules" :aria-label="t('check.rules')">
      <p class="section-title">{{ t('check.count', all.length) }}</p>
      <button class="rule" :class="{ on: rule === null }" @click="choose(null)">
        <span>{{ t('check.all') }}</span><b>{{ all.length }}</b>
      </button>
      <button
        v-for="group in groups"
        :key="group.name"
        class="rule"
        :class="{ on: rule === group.name, none: !group.count }"
        :data-rule="group.name"
        @click="choose(group.name)"
      >
        <svg viewBox="0 0 12 12" aria-hidden="true">
          <path v-if="group.count" d="M6 0l6 6-6 6-6-6z" />
          <path v-else class="tick" d="M1 6l3.500 4L11 2" />
        </svg>
        <span>{{ t(`check.rule.${group.name}`) }}</span><b>{{ group.count || '' }}</b>
      </button>
    </nav>
    <section class="found" :aria-label="t('check.places')">
      <h1>{{ rule ? t(`check.rule.${rule}`) : t('check.all') }}</h1>
      <p class="soft">{{ t('check.by', { spec: project.project?.spec.name }) }}</p>
      <div class="film-strip" aria-hidden="true">
        <i
          v-for="caption in track.captions.length <= 600 ? track.captions : []"
          :key="caption.id"
          :style="{
            left: `${(caption.in_ms / project.durationMs) * 100}%`,
            width: `${((caption.out_ms - caption.in_ms) / project.durationMs) * 100}%`,
          }"
        />
        <b
          v-for="(place, index) in places.slice(0, MOST_SHOWN)"
          :key="index"
          :class="{ on: index === at }"
          :style="{ left: `${(place.finding.in_ms / project.durationMs) * 100}%` }"
        />
      </div>
      <p v-if="track.loaded && !all.length" class="clean">
        {{ track.captions.length ? t('check.clean', { spec: project.project?.spec.name }) : t('check.nothing') }}
      </p>
      <ol class="places">
        <li
          v-for="(place, index) in places.slice(0, MOST_SHOWN)"
          :key="place.finding.rule + place.finding.caption"
          class="place"
          :class="{ on: index === at && selection.currentId === place.finding.caption }"
          :aria-current="index === at ? 'true' : undefined"
          data-place
          @click="show(index)"
          @dblclick="goThere"
        >
          <span class="when time">{{ shortClock(place.finding.in_ms) }}</span>
          <span class="what">
            <span class="said">{{ place.text }}</span>
            <span class="told">{{ findingText(t, place.finding) }}</span>
          </span>
          <v-btn size="small" @click.stop="((at = index), goThere())">{{ t('check.go') }}</v-btn>
        </li>
      </ol>
      <p v-if="places.length > MOST_SHOWN" class="soft">{{ t('check.more', places.length - MOST_SHOWN) }}</p>
    </section>
  </div>
</template>

<style scoped>
.check {
  display: grid;
  grid-template-columns: 206px minmax(0, 1fr);
  height: 100%;
}
.rules {
  padding: 12px 0;
  border-right: 1px solid var(--line);
  overflow-y: auto;
}
.rules .section-title {
  padding: 0 16px 8px;
}
.rule {
  display: grid;
  grid-template-columns: 14px 1fr auto;
  align-items: center;
  gap: 10px;
  width: 100%;
  padding: 9px 16px;
  text-align: left;
  font: inherit;
  color: var(--ink);
  background: none;
  border: 0;
  border-left: 3px solid transparent;
}
.rule:first-of-type {
  grid-template-columns: 1fr auto;
  padding-left: 13px;
}
.rule.on {
  background: var(--paper);
  border-left-color: var(--russet);
}
.rule.none {
  color: var(--soft);
}
.rule svg {
  width: 12px;
  height: 12px;
  fill: var(--heather);
}
.rule .tick {
  fill: none;
  stroke: var(--reed);
  stroke-width: 1.8;
}
.found {
  overflow-y: auto;
  padding: 14px 18px 40px;
}
h1 {
  margin: 0;
  font-size: 17px;
}
.found > p {
  margin: 2px 0 10px;
}
.film-strip {
  position: relative;
  height: 34px;
  margin-bottom: 12px;
  overflow: hidden;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 6px;
}
.film-strip i {
  position: absolute;
  top: 12px;
  height: 9px;
  background: var(--tide-wash);
  border-radius: 2px;
}
.film-strip b {
  position: absolute;
  top: 12px;
  width: 9px;
  height: 9px;
  margin-left: -4px;
  background: var(--heather);
  transform: rotate(45deg);
}
.film-strip b.on {
  transform: rotate(45deg) scale(1.5);
}
.clean {
  color: var(--reed);
  font-size: 15px;
}
.places {
  margin: 0;
  padding: 0;
  list-style: none;
}
.place {
  display: grid;
  grid-template-columns: 78px 1fr auto;
  align-items: center;
  gap: 12px;
  padding: 9px 12px;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 6px;
  cursor: default;
}
.place + .place {
  margin-top: 6px;
}
.place.on {
  border-color: var(--russet);
  box-shadow: inset 3px 0 0 var(--russet);
}
.when {
  font-size: 12px;
  color: var(--soft);
}
.said {
  display: block;
  white-space: pre-line;
  overflow-wrap: anywhere;
}
.told {
  color: var(--heather);
  font-size: 13px;
}
</style>
