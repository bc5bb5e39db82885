<script setup lang="ts">
/** How the sound beside the cards is drawn. */
import { useI18n } from 'vue-i18n'

import { SOUND_PICTURES, useSoundLook } from '@/score/soundLook'
import ChoiceRow from '@/kit/ChoiceRow.vue'

const { t } = useI18n()
const look = useSoundLook()
const pictures = SOUND_PICTURES.map((value) => ({ value, title: t(`score.sound.${value}`) }))
</script>

<template>
  <v-menu :close-on-content-click="false" location="top end">
    <template #activator="{ props: opens }">
      <v-btn v-bind="opens" size="x-small" data-sound>{{ t('score.sound.button', { picture: t(`score.sound.${look.picture}`) }) }}</v-btn>
    </template>
    <div class="look">
      <ChoiceRow v-model="look.picture" :label="t('score.sound.label')" :options="pictures" />
      <label>
        <span>{{ t('score.sound.amplitude') }}</span>
        <input v-model.number="look.amplitude" type="range" min="0.5" max="8" step="0.5" data-amplitude />
        <output class="time">×{{ look.amplitude }}</output>
      </label>
      <label :class="{ unused: look.picture === 'outline' }">
        <span>{{ t('score.sound.contrast') }}</span>
        <input v-model.number="look.contrast" type="range" min="0" max="1" step="0.05" data-contrast :disabled="look.picture === 'outline'" />
        <output class="time">{{ Math.round(look.contrast * 100) }} %</output>
      </label>
    </div>
  </v-menu>
</template>

<style scoped>
.look {
  width: 300px;
  padding: 12px 14px;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 6px;
  font-size: 13px;
}
label {
  display: grid;
  grid-template-columns: 76px 1fr 46px;
  align-items: center;
  gap: 10px;
  margin-top: 10px;
}
input {
  accent-color: var(--tide);
}
output {
  font-size: 12px;
  text-align: right;
  color: var(--soft);
}
.unused {
  color: var(--soft);
  opacity: 0.6;
}
</style>
