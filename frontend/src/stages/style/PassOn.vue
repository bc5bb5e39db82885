<script setup lang="ts">
/** What the current caption says of its look, given to others: which of it, and to whom. */
import { computed, onMounted, ref } from 'vue'
import { useI18n } from 'vue-i18n'

import ChoiceRow from '@/kit/ChoiceRow.vue'
import PanelHead from '@/kit/PanelHead.vue'
import { useSelection } from '@/score/selectionStore'
import { PLACE, type Property } from '@/stages/style/properties'
import { type Receivers, useShelf } from '@/stages/style/shelfStore'

const emit = defineEmits<{ close: [] }>()

const { t } = useI18n()
const selection = useSelection()
const shelf = useShelf()

const PARTS = {
  font: ['font', 'weight', 'italic', 'underline', 'strike', 'stretch', 'letter_spacing', 'line_spacing', 'case'],
  size: ['size'],
  colours: ['colour', 'opacity', 'outline', 'outline_colour', 'outline_opacity', 'outline_softness', 'shadow', 'shadow_direction', 'shadow_colour', 'shadow_opacity', 'shadow_softness', 'depth'],
  background: ['background', 'background_opacity', 'background_shape', 'background_padding', 'background_corners'],
  place: [...PLACE, 'margin', 'side_margin'],
  turn: ['turn', 'tilt_x', 'tilt_y'],
  window: ['window', 'window_keeps'],
  motion: ['comes', 'comes_ms', 'goes', 'goes_ms', 'moments'],
} as const satisfies Record<string, readonly Property[]>
type Part = keyof typeof PARTS

const chosen = ref<Part[]>([])
const to = ref<Receivers>('style')
const form = ref<HTMLFormElement | null>(null)

const said = computed(() => (selection.current ? new Set(Object.keys(shelf.saidBy(selection.current))) : new Set<string>()))
const says = (part: Part) => PARTS[part].some((name) => said.value.has(name))
const count = computed(() => shelf.receivers(to.value).length)
const receivers = computed(() =>
  (['style', 'later', 'selected'] as const).map((value) => ({ value, title: t(`style.receivers.${value}`) })),
)
onMounted(() => {
  chosen.value = (Object.keys(PARTS) as Part[]).filter(says)
  if (selection.selected.length > 1) to.value = 'selected'
  form.value?.querySelector('input')?.focus()
})

function passOn() {
  shelf.passOn(chosen.value.flatMap((part) => [...PARTS[part]]), to.value)
  emit('close')
}
</script>

<template>
  <form ref="form" class="pass" data-pass-on @submit.prevent="passOn" @keydown.esc.stop.prevent="emit('close')">
    <PanelHead :title="t('style.passOn')" :about="t('style.passOnAbout')" @close="emit('close')" />
    <div class="parts">
      <label v-for="(_, part) in PARTS" :key="part" :class="{ soft: !says(part) }">
        <input v-model="chosen" type="checkbox" :value="part" :data-part="part" /> {{ t(`style.part.${part}`) }}
        <small v-if="!says(part)" class="soft">{{ t('style.byStyle') }}</small>
      </label>
    </div>
    <ChoiceRow v-model="to" :label="t('style.passOnTo')" :options="receivers" />
    <v-btn color="primary" size="small" type="submit" :disabled="!count || !chosen.length">{{ t('style.passOnNow', count) }}</v-btn>
  </form>
</template>

<style scoped>
.pass {
  display: grid;
  gap: 8px;
  justify-items: start;
  padding: 10px 16px 12px;
  font-size: 13px;
  border-bottom: 1px solid var(--line);
}
.pass > :first-child {
  width: 100%;
}
.parts {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
}
</style>
