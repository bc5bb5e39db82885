<script setup lang="ts">
/** How a film is written: codec, quality, size, frames a second, passage, sound. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

import type { Schemas } from '@/api/client'
import { usePictureSizes } from '@/stages/deliver/pictureSizes'
import PassageDial from '@/stages/deliver/PassageDial.vue'
import RateDial from '@/stages/deliver/RateDial.vue'

const CODECS = ['h264', 'hevc', 'vp9', 'prores'] as const
const QUALITIES = ['best', 'film', 'small'] as const
const SOUNDS = ['kept', 'anew', 'none'] as const

type Encoding = Schemas['Encoding']
const encoding = defineModel<Encoding>({ required: true })
const props = defineProps<{ version?: string | null }>()
const { t } = useI18n()
const sizes = usePictureSizes(() => props.version)
const set = (values: Partial<Encoding>) => (encoding.value = { ...encoding.value, ...values })
const chosen = (event: Event) => (event.target as HTMLSelectElement).value
/** A codec has its own measure of quality. */
const setCodec = (codec: Encoding['codec']) => set({ codec, crf: null })
const startsFast = computed(() => encoding.value.codec !== 'vp9')
</script>

<template>
  <label class="dial">
    <span>{{ t('packing.dial.codec') }}</span>
    <select :value="encoding.codec" data-dial="codec" @change="setCodec(chosen($event) as Encoding['codec'])">
      <option v-for="codec in CODECS" :key="codec" :value="codec">{{ t(`packing.codecLong.${codec}`) }}</option>
    </select>
  </label>
  <label class="dial">
    <span>{{ t('deliver.qualityLabel') }}</span>
    <select :value="encoding.quality" data-dial="quality" @change="set({ quality: chosen($event) as Encoding['quality'], crf: null })">
      <option v-for="quality in QUALITIES" :key="quality" :value="quality">{{ t(`deliver.quality.${quality}`) }}</option>
    </select>
  </label>
  <label class="dial">
    <span>{{ t('deliver.sizeLabel') }}</span>
    <select :value="encoding.height ?? ''" data-dial="height" @change="set({ height: Number(chosen($event)) || null })">
      <option v-for="size in sizes" :key="size.title" :value="size.value ?? ''">{{ size.title }}</option>
    </select>
  </label>
  <RateDial :model-value="encoding.rate ?? null" @update:model-value="set({ rate: $event })" />
  <PassageDial :model-value="encoding.passage ?? null" @update:model-value="set({ passage: $event })" />
  <label class="dial">
    <span>{{ t('packing.dial.sound') }}</span>
    <select :value="encoding.sound" data-dial="sound" @change="set({ sound: chosen($event) as Encoding['sound'] })">
      <option v-for="sound in SOUNDS" :key="sound" :value="sound">{{ t(`packing.sound.${sound}`) }}</option>
    </select>
  </label>
  <label v-if="startsFast" class="tick">
    <input type="checkbox" :checked="encoding.fast_start" data-dial="fast-start" @change="set({ fast_start: ($event.target as HTMLInputElement).checked })" />
    {{ t('packing.fastStart') }}
  </label>
</template>
