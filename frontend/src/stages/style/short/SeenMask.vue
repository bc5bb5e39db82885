<script setup lang="ts">
/** What a player covers of the picture with its own buttons and texts, as plain areas over it. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

import { useShort } from '@/stages/style/short/shortStore'

const { t } = useI18n()
const short = useShort()
const percent = (part: number) => `${part * 100}%`
/** The brim that is not seen, by its four sides. */
const areas = computed(() => {
  const seen = short.seen
  if (!seen) return []
  const { left = 0.03, top = 0.03, right = 0.97, bottom = 0.97 } = seen
  return [
    { left: '0', right: '0', top: '0', height: percent(top) },
    { left: '0', right: '0', bottom: '0', height: percent(1 - bottom) },
    { left: '0', width: percent(left), top: percent(top), bottom: percent(1 - bottom) },
    { right: '0', width: percent(1 - right), top: percent(top), bottom: percent(1 - bottom) },
  ]
})
</script>

<template>
  <div class="mask" role="img" :aria-label="t('short.maskShown')" data-mask>
    <i v-for="(area, n) in areas" :key="n" :style="area" />
  </div>
</template>

<style scoped>
.mask {
  position: absolute;
  inset: 0;
  pointer-events: none;
}
.mask i {
  position: absolute;
  background: repeating-linear-gradient(45deg, rgb(20 25 27 / 45%) 0 8px, rgb(20 25 27 / 25%) 8px 16px);
  outline: 1px dashed rgb(255 253 248 / 50%);
  outline-offset: -1px;
}
</style>
