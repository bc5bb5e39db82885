<script setup lang="ts">
/** Where captions stand, and which: all, the one with the cursor, or all from that on; in a version also whether it is there. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

import ChoiceRow from '@/kit/ChoiceRow.vue'
import { useCommands } from '@/kit/commands/commands'
import KeyCap from '@/kit/commands/KeyCap.vue'
import { useVersions } from '@/session/versionsStore'
import { REACHES, useCaptionPlace } from '@/stages/style/short/useCaptionPlace'

/** How far a press moves them, in parts of the picture. */
const STEP = 0.02

const { t } = useI18n()
const versions = useVersions()
const { reach, nextReach, caption, height, isHidden, setHeight, toggleHidden } = useCaptionPlace()
const reaches = computed(() => REACHES.map((value) => ({ value, title: t(`short.reach.${value}`) })))
const percent = computed({ get: () => Math.round(height.value * 100), set: (now: number) => setHeight(now / 100) })

const can = () => reach.value === 'all' || caption.value !== undefined
useCommands([
  { id: 'caption-higher', run: () => setHeight(height.value - STEP), enabled: can, why: 'caption' },
  { id: 'caption-lower', run: () => setHeight(height.value + STEP), enabled: can, why: 'caption' },
  { id: 'place-reach', run: nextReach },
  { id: 'caption-leave-out', run: toggleHidden, enabled: () => versions.shown !== undefined && caption.value !== undefined, why: 'version' },
])
</script>

<template>
  <div class="dial">
    <span>{{ t('short.height') }} <KeyCap command="caption-higher" /> <KeyCap command="caption-lower" /></span>
    <label><input v-model.lazy.number="percent" type="number" min="0" max="100" step="1" class="time" :aria-label="t('short.height')" data-short-height> %</label>
    <ChoiceRow v-model="reach" :label="t('short.reachLabel')" :options="reaches" /><KeyCap command="place-reach" />
    <button v-if="reach !== 'all'" type="button" class="link" data-height-back @click="setHeight(null)">{{ t('short.heightBack') }}</button>
  </div>
  <div v-if="versions.shown && caption" class="dial">
    <label class="check"><input type="checkbox" :checked="isHidden" data-hidden @change="toggleHidden"> {{ t('version.leftOut', { version: versions.shown.version.name }) }}</label> <KeyCap command="caption-leave-out" />
  </div>
</template>

<style scoped>
.check {
  display: inline-flex;
  gap: 6px;
  align-items: center;
}
</style>
