<script setup lang="ts">
/** The colours that most of this frame has, each to be taken for the colour that was chosen to be set. */
import { ref } from 'vue'
import { useI18n } from 'vue-i18n'

import { commonColours } from '@/picture/frameColours'
import { useFrame } from '@/picture/useFrame'
import { usePicking } from '@/stages/style/pickingStore'
import { useLooks } from '@/stages/style/looksStore'

const [WIDE, HIGH, MOST] = [96, 54, 7]

const { t } = useI18n()
const picking = usePicking()
const looks = useLooks()
const { frame, onFrame } = useFrame()
const colours = ref<string[]>([])

function read() {
  const pixels = frame(WIDE, HIGH)
  colours.value = pixels ? commonColours(pixels, MOST) : []
}
onFrame(read)
</script>

<template>
  <div v-if="colours.length" class="row" role="group" :aria-label="t('style.frameColours')">
    <span class="label">{{ t('style.row.frame') }}</span>
    <button
      v-for="colour in colours"
      :key="colour"
      type="button"
      :style="{ background: colour }"
      :title="t('style.takeColour', { colour, property: t(`style.property.${picking.property}`) })"
      :aria-label="t('style.takeColour', { colour, property: t(`style.property.${picking.property}`) })"
      :data-frame-colour="colour"
      @click="looks.settle({ [picking.property]: colour })"
    />
  </div>
</template>

<style scoped>
.row {
  display: flex;
  align-items: center;
  gap: 4px;
  min-height: 29px;
}
.label {
  flex: none;
  width: 93px;
  font-size: 13px;
}
button {
  flex: 1;
  height: 18px;
  max-width: 22px;
  border: 1px solid var(--soft);
  border-radius: 3px;
}
</style>
