<script setup lang="ts">
/** The nine places on the picture, as a small picture. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

import { useLooks } from '@/stages/style/looksStore'
import { useProperty } from '@/stages/style/useProperty'

const { t } = useI18n()
const looks = useLooks()
const anchor = useProperty('anchor')
const align = useProperty('align')
const ANCHORS = ['top', 'middle', 'bottom'] as const
const ALIGNS = ['left', 'center', 'right'] as const
const places = computed(() => ANCHORS.flatMap((down) => ALIGNS.map((across) => ({ down, across, on: anchor.value.value === down && align.value.value === across }))))

function put(down: (typeof ANCHORS)[number], across: (typeof ALIGNS)[number]) {
  void looks.settle({ anchor: down, align: across, x: null, y: null })
}
</script>

<template>
  <span class="grid" role="radiogroup" :aria-label="t('style.property.anchor')">
    <button
      v-for="place in places"
      :key="place.down + place.across"
      type="button"
      role="radio"
      :aria-checked="place.on"
      :aria-label="t(`styling.place.${place.down}-${place.across}`)"
      :title="t(`styling.place.${place.down}-${place.across}`)"
      :disabled="!anchor.settable.value"
      :data-place="`${place.down}-${place.across}`"
      @click="put(place.down, place.across)"
    />
  </span>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: repeat(3, 18px);
  gap: 3px;
  padding: 3px;
  border: 1px solid var(--line);
  border-radius: 4px;
}
button {
  height: 11px;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 2px;
}
button[aria-checked='true'] {
  background: var(--russet);
  border-color: var(--russet);
}
</style>
