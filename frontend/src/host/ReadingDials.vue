<script setup lang="ts">
/** How a viewer likes the words: large or small, in which letters, on which ground, where. */
import { useI18n } from 'vue-i18n'

import { FACES, GROUNDS, PLACES, useReading } from '@/host/reading'

const { t } = useI18n()
const { face, ground, place, larger, smaller } = useReading()
</script>

<template>
  <fieldset class="look">
    <legend>{{ t('film.look') }}</legend>
    <div role="group" :aria-label="t('film.size')">
      <span>{{ t('film.size') }}</span>
      <button type="button" :aria-label="t('film.smaller')" data-smaller @click="smaller">−</button>
      <button type="button" :aria-label="t('film.larger')" data-larger @click="larger">+</button>
    </div>
    <label><span>{{ t('film.face') }}</span><select v-model="face"><option v-for="(_, name) in FACES" :key="name" :value="name">{{ t(`film.faces.${name}`) }}</option></select></label>
    <label><span>{{ t('film.ground') }}</span><select v-model="ground"><option v-for="one in GROUNDS" :key="one" :value="one">{{ t(`film.grounds.${one}`) }}</option></select></label>
    <label><span>{{ t('film.place') }}</span><select v-model="place"><option v-for="one in PLACES" :key="one" :value="one">{{ t(`film.places.${one}`) }}</option></select></label>
  </fieldset>
</template>

<style scoped>
.look {
  display: grid;
  min-width: 0;
  gap: 7px;
  margin: 0;
  padding: 0;
  border: 0;
}
legend {
  padding: 0 0 6px;
  font: 600 17px var(--slab);
}
label,
div {
  display: flex;
  gap: 8px;
  align-items: center;
}
span {
  width: 66px;
  color: var(--deep-soft);
}
select {
  flex: 1;
  min-width: 0;
}
</style>
