<script setup lang="ts">
/** Who owns the keyboard now, and what its main keys do here. */
import { useEventListener } from '@vueuse/core'
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRoute } from 'vue-router'

import { usePlayer } from '@/picture/playerStore'
import { useProject } from '@/session/projectStore'
import { useSelection } from '@/score/selectionStore'
import { useTrack } from '@/session/tracksStore'
import type { CommandId } from '@/kit/commands/catalogue'
import { keyOf } from '@/kit/commands/keymap'
import { isPossible } from '@/kit/commands/commands'
import { type Owner, ownerOf, printed } from '@/kit/commands/keys'

const { t } = useI18n()
const route = useRoute()
const project = useProject()
const track = useTrack()
const player = usePlayer()
const selection = useSelection()

const owner = ref<Owner>('stage')
/** Names what has the keys where that is no stage: a field, a list, a button. */
const control = ref('')
useEventListener(document, 'focusin', ({ target }) => {
  owner.value = ownerOf(target)
  // What is written in stands on the stage's own page; other fields are told as such.
  control.value = target instanceof HTMLInputElement ? (target.dataset.keys ?? 'field') : ((target as HTMLElement).dataset.keys ?? '')
})
useEventListener(document, 'focusout', () => ([owner.value, control.value] = ['stage', '']))
const typing = computed(() => owner.value === 'text')

/**
 * What each place shows: commands that are told by one word, the word, and whether it is all from the first to the last, or by
 * the keys that work in text too.
 */
type Shown = [CommandId | CommandId[], string, ('range' | 'text')?]
const ALL: Shown = ['keys', 'all']
const KEYS: Record<string, Shown[]> = {
  text: [['play', 'play'], ['set-in', 'in'], ['set-out', 'out'], ['split', 'split'], ['caption-next', 'next'], ['leave-text', 'leave']],
  time: [['play', 'play'], ['set-in', 'in'], ['set-out', 'out'], [['frame-back', 'frame-on'], 'frame'], ['write', 'write'], ['insert', 'new'], ALL],
  cueing: [['cue-in', 'in'], ['cue-out', 'out'], ['cue-back', 'back'], ['cue-stop', 'stop'], ['play', 'play']],
  style: [
    [['place-left', 'place-up', 'place-right', 'place-down'], 'move'], [['letters-larger', 'letters-smaller'], 'size'], ['style-next', 'nextStyle'],
    ['style-words', 'words'], ['window', 'window'], ['style-guides', 'guides'], [['caption-before', 'caption-next'], 'captions', 'text'], ALL,
  ],
  'style-short': [
    [['word-before', 'word-next'], 'wordTo'], [['word-carry-back', 'word-carry-on'], 'carry'], ['word-break', 'breakHere'], ['word-weight', 'weight'],
    ['word-leave-out', 'leaveOut'], ['word-emoji', 'emoji'], [['rhythm-less', 'rhythm-more'], 'atOnce'], ['look-next', 'nextLook'], ALL,
  ],
  sticking: [
    [['mark-left', 'mark-up', 'mark-right', 'mark-down'], 'move'], [['mark-larger', 'mark-smaller'], 'size'], [['mark-turn-right', 'mark-turn-left'], 'turn'],
    ['stick-follow', 'followIt'], ['stick-take', 'stick'], [['frame-back', 'frame-on'], 'frame'], ['stick-leave', 'leave'], ALL,
  ],
  translate: [
    ['pair-open', 'toOpen'], ['source-hear', 'hearSource'], ['write', 'write'], ['pair-copy', 'copySource'], ['speech-fill', 'fillSpeech'],
    ['pair-across', 'otherSide'], ALL,
  ],
  'translate-text': [
    ['pair-done', 'confirm'], ['source-hear', 'hearSource'], ['pair-copy', 'copySource'], ['pair-later', 'letWait'], ['pair-open', 'toOpen'],
    ['leave-text', 'leave'],
  ],
  check: [
    [['finding-next', 'finding-before'], 'findings'], ['finding-hear', 'hear'], ['finding-choose', 'choose'], ['finding-mend', 'mend'],
    ['finding-waive', 'waive'], ['finding-go', 'goThere'], ALL,
  ],
  spec: [['play', 'play'], ALL],
  'bring-in': [['play', 'play'], ALL],
  script: [['script-take', 'takeIn'], ALL],
  'script-text': [['script-take', 'takeIn'], ['play', 'play'], ['leave-text', 'leave']],
  transcribe: [['play', 'play'], ['transcript-write', 'write'], ['doubtful-next', 'doubtful'], [['speaker-1', 'speaker-9'], 'speaker', 'range'], ['find', 'find'], ALL],
  'transcribe-text': [['play', 'play'], ['doubtful-next', 'doubtful'], ['doubtful-accept', 'right'], ['time-link', 'timeLink'], ['transcript-leave', 'leave']],
  'transcribe-ear': [['ear-begin', 'begin'], ['play', 'play'], ['view-words', 'transcript'], ALL],
  'transcribe-ear-text': [['ear-store', 'storeLine'], ['play', 'play'], ['ear-before', 'beforePassage'], ['ear-leave', 'stop']],
  'transcribe-make': [
    ['play', 'play'], [['make-next', 'make-before'], 'changes'], ['make-choose', 'choose'], ['make-hear', 'hear'], ['make-accept', 'putIn'],
    ['view-words', 'transcript'], ALL,
  ],
  'transcribe-page': [['writing-write', 'write'], ['play', 'play'], ['writing-hear', 'hear'], ['view-words', 'transcript'], ALL],
  'transcribe-page-text': [['boundary-make', 'newCaption'], ['play', 'play'], ['writing-hear', 'hear'], ['undo', 'undo'], ['writing-leave', 'leave']],
  deliver: [
    [['item-next', 'item-before'], 'items'], ['item-in-out', 'inOut'], ['item-settings', 'itemSettings'], ['list-make', 'make'], ['item-add', 'add'], ['item-look', 'look'],
    [['piece-next', 'piece-before'], 'pieces'], ['piece-another', 'another'], [['piece-longer', 'piece-shorter'], 'longerShorter'], ['piece-write', 'write'], ['piece-hear', 'hear'], ['piece-clip', 'clip'], ['film-ask', 'askFilm'],
    ['play', 'play'], ALL,
  ],
}
const CONTROLS: Record<string, [string[], string][]> = {
  button: [[['Enter', 'Space'], 'press'], [['Tab'], 'on'], [['Escape'], 'leave']],
  checkbox: [[['Space'], 'tick'], [['Tab'], 'on'], [['Escape'], 'leave']],
  list: [[['ArrowUp', 'ArrowDown'], 'choose'], [['Escape'], 'leave']],
  slider: [[['ArrowLeft', 'ArrowRight'], 'move'], [['Escape'], 'leave']],
  search: [[['ArrowUp', 'ArrowDown'], 'choose'], [['Enter'], 'run'], [['Escape'], 'leave']],
  find: [[['Enter'], 'nextHit'], [['Escape'], 'leave']],
  field: [[['Enter'], 'take'], [['Escape'], 'leave']],
  words: [[['Shift', '←', '→'], 'choose'], [['Escape'], 'leave']],
}
const held = computed(() => (owner.value === 'stage' ? null : owner.value === 'text' ? control.value || null : owner.value))
const place = computed(() => {
  const stage = route.query.view ? `${String(route.name)}-${String(route.query.view)}` : String(route.name)
  if (!typing.value) return selection.awaitedId ? 'cueing' : isPossible('stick-leave') ? 'sticking' : stage
  return stage in KEYS && `${stage}-text` in KEYS ? `${stage}-text` : 'text'
})
const shown = computed(() =>
  held.value ? (CONTROLS[held.value] ?? []).map(([keys, what]) => ({ what, keys: keys.map(printed) })) : ofStage.value,
)
const ofStage = computed(() =>
  (KEYS[place.value] ?? [])
    .map(([commands, what, how]) => {
      const keys = [commands].flat().filter(isPossible).flatMap((id) => keyOf(id, typing.value || how === 'text') ?? []).map(printed)
      return { what, keys: how === 'range' && keys.length > 1 ? [keys.join('–')] : keys }
    })
    .filter(({ keys }) => keys.length),
)
const rate = computed(() => Number((project.rate.numerator / project.rate.denominator).toFixed(3)))
</script>

<template>
  <footer class="status">
    <span class="own" data-owner>{{ t(`keys.owner.${held ?? place}`) }}</span>
    <span v-for="{ keys, what } in shown" :key="what"><kbd v-for="key in keys" :key="key">{{ key }}</kbd> {{ t(`keys.short.${what}`) }}</span>
    <span class="figures time">
      <template v-if="track.loaded">{{ t('status.captions', track.captions.length) }} · {{ t('status.findings', track.findings) }} · </template>{{ t(project.project?.film.frame_rate_varies ? 'status.varying' : 'status.rate', { rate }) }} ·
      {{ t('status.frame', { frame: player.frameNumber }) }}
    </span>
  </footer>
</template>

<style scoped>
.status {
  grid-column: 2 / -1;
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
