<script setup lang="ts">
/** Who owns the keyboard now, and what its main keys do here. */
import { useEventListener } from '@vueuse/core'
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRoute } from 'vue-router'

import { usePlayer } from '@/picture/playerStore'
import { useProject } from '@/session/projectStore'
import { useTrack } from '@/session/tracksStore'
import { takesText } from '@/kit/commands'

const { t } = useI18n()
const route = useRoute()
const project = useProject()
const track = useTrack()
const player = usePlayer()

const typing = ref(false)
useEventListener(document, 'focusin', (event) => (typing.value = takesText(event.target)))
useEventListener(document, 'focusout', () => (typing.value = false))

const KEYS: Record<string, [string, string][]> = {
  text: [['Ctrl Space', 'play'], ['Alt I', 'in'], ['Alt O', 'out'], ['Alt S', 'split'], ['Alt ↓', 'next'], ['Esc', 'leave']],
  time: [['Space', 'play'], ['I', 'in'], ['O', 'out'], [', .', 'frame'], ['Enter', 'write'], ['N', 'new'], ['?', 'all']],
  check: [['↓ ↑', 'findings'], ['H', 'hear'], ['X', 'choose'], ['Enter', 'mend'], ['W', 'waive'], ['G', 'goThere'], ['?', 'all']],
  spec: [['Space', 'play'], ['?', 'all']],
  'bring-in': [['Space', 'play'], ['?', 'all']],
  script: [['Ctrl Enter', 'takeIn'], ['?', 'all']],
  'script-text': [['Ctrl Enter', 'takeIn'], ['Ctrl Space', 'play'], ['Esc', 'leave']],
  transcribe: [['Space', 'play'], ['Enter', 'write'], ['Q', 'doubtful'], ['1–9', 'speaker'], ['Ctrl F', 'find'], ['?', 'all']],
  'transcribe-text': [['Ctrl Space', 'play'], ['Tab', 'doubtful'], ['Ctrl Enter', 'right'], ['Alt T', 'timeLink'], ['Esc', 'leave']],
  'transcribe-ear': [['Enter', 'begin'], ['Space', 'play'], ['T', 'transcript'], ['?', 'all']],
  'transcribe-ear-text': [['Enter', 'storeLine'], ['Ctrl Space', 'play'], ['Alt ↑', 'beforePassage'], ['Esc', 'stop']],
  'transcribe-make': [['Space', 'play'], ['↓ ↑', 'changes'], ['X', 'choose'], ['H', 'hear'], ['Ctrl Enter', 'putIn'], ['T', 'transcript'], ['?', 'all']],
  'transcribe-page': [['Enter', 'write'], ['Space', 'play'], ['H', 'hear'], ['T', 'transcript'], ['?', 'all']],
  'transcribe-page-text': [['Ctrl Space', 'play'], ['Alt H', 'hear'], ['Ctrl Z', 'undo'], ['Esc', 'leave']],
  deliver: [['Space', 'play'], ['?', 'all']],
}
const place = computed(() => {
  const stage = route.query.view ? `${String(route.name)}-${String(route.query.view)}` : String(route.name)
  if (!typing.value) return stage
  return stage in KEYS && `${stage}-text` in KEYS ? `${stage}-text` : 'text'
})
const rate = computed(() => Number((project.rate.numerator / project.rate.denominator).toFixed(3)))
</script>

<template>
  <footer class="status">
    <span class="own" data-owner>{{ t(`keys.owner.${place}`) }}</span>
    <span v-for="[key, what] in KEYS[place] ?? []" :key="key"><kbd>{{ key }}</kbd> {{ t(`keys.short.${what}`) }}</span>
    <span class="figures time">
      {{ t('status.captions', track.captions.length) }} · {{ t('status.findings', track.findings) }} · {{ t(project.project?.film.frame_rate_varies ? 'status.varying' : 'status.rate', { rate }) }} ·
      {{ t('status.frame', { frame: player.frameNumber }) }}
    </span>
  </footer>
</template>

<style scoped>
.status {
  grid-column: 2 / 4;
  display: flex;
  align-items: center;
  gap: 16px;
  padding: 0 14px;
  overflow: hidden;
  white-space: nowrap;
  font-size: 12.5px;
  color: var(--soft);
  background: var(--sand-deep);
  border-top: 1px solid var(--line);
}
.own {
  padding: 2px 9px;
  font-weight: 600;
  color: var(--on-tide);
  background: var(--tide);
  border-radius: 5px;
}
.figures {
  margin-left: auto;
  overflow: hidden;
  text-overflow: ellipsis;
  font-size: 12px;
}
</style>
