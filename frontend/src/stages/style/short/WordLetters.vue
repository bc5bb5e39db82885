<script setup lang="ts">
/** The letters of words that are told apart from those around them: their face, weight, slant and case. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

import type { Schemas } from '@/api/client'
import { useFonts } from '@/session/fonts'
import { CASES, WEIGHTS } from '@/stages/style/properties'

type WordLook = Schemas['WordLook']

const { look } = defineProps<{ look: WordLook | null | undefined; title: string; state: string }>()
const emit = defineEmits<{ change: [part: keyof WordLook, value: WordLook[keyof WordLook]] }>()

const { t } = useI18n()
const fonts = useFonts()
const families = computed(() => fonts.families.map(({ name }) => name))
/** What none says is as in the words around. */
const AS_AROUND = ''
const set = (part: keyof WordLook, event: Event) => {
  const value = (event.target as HTMLSelectElement).value
  emit('change', part, value === AS_AROUND ? null : part === 'weight' ? (Number(value) as WordLook['weight']) : part === 'italic' ? value === 'true' : value)
}
</script>

<template>
  <div class="letters" role="group" :aria-label="title" :data-letters="state">
    <span class="soft">{{ title }}</span>
    <select :value="look?.font ?? ''" :aria-label="t('short.letter.face')" data-part="font" @change="set('font', $event)">
      <option value="">{{ t('short.letter.sameFace') }}</option>
      <option v-for="family in families" :key="family" :value="family">{{ family }}</option>
    </select>
    <select :value="look?.weight ?? ''" :aria-label="t('short.letter.weight')" data-part="weight" @change="set('weight', $event)">
      <option value="">{{ t('short.letter.sameWeight') }}</option>
      <option v-for="weight in WEIGHTS" :key="weight" :value="weight">{{ t(`style.weight.${weight}`) }}</option>
    </select>
    <select :value="look?.italic === null || look?.italic === undefined ? '' : String(look.italic)" :aria-label="t('short.letter.slant')" data-part="italic" @change="set('italic', $event)">
      <option value="">{{ t('short.letter.sameSlant') }}</option>
      <option value="true">{{ t('short.letter.italic') }}</option>
      <option value="false">{{ t('short.letter.upright') }}</option>
    </select>
    <select :value="look?.case ?? ''" :aria-label="t('short.letter.case')" data-part="case" @change="set('case', $event)">
      <option value="">{{ t('short.letter.sameCase') }}</option>
      <option v-for="one in CASES" :key="one" :value="one">{{ t(`short.case.${one}`) }}</option>
    </select>
  </div>
</template>

<style scoped>
.letters {
  display: grid;
  grid-template-columns: 96px 1fr 1fr;
  gap: 4px 8px;
}
.letters span {
  grid-row: span 2;
}
select {
  min-width: 0;
  padding: 2px 4px;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 4px;
}
</style>
