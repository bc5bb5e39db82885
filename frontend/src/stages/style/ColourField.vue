<script setup lang="ts">
/** A colour of a look: picked, typed as #RRGGBB, or taken from the picture. */
import { computed, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import { usePicking } from '@/stages/style/pickingStore'
import type { Property } from '@/stages/style/properties'
import { useProperty } from '@/stages/style/useProperty'

const props = defineProps<{
  property: Property & ('colour' | 'outline_colour' | 'shadow_colour' | 'background')
  /** What no colour is called, where there may be none. */
  none?: string
}>()

const { t } = useI18n()
const picking = usePicking()
const { value, mixed, settable, set, tryOut } = useProperty(props.property)

const typed = ref('')
const wrong = ref(false)
const shown = computed(() => (mixed.value ? '' : (value.value ?? '')))
watch(shown, (text) => (typed.value = text), { immediate: true })
const isPicked = computed(() => picking.property === props.property)

function commit() {
  const text = typed.value.trim()
  if (text === shown.value) return
  const digits = text.replace(/^#/, '')
  const whole = digits.length === 3 ? [...digits].map((digit) => digit + digit).join('') : digits
  wrong.value = !/^[\da-f]{6}$/i.test(whole)
  if (!wrong.value) void set(`#${whole.toUpperCase()}` as never)
}
const pick = (event: Event) => void tryOut((event.target as HTMLInputElement).value.toUpperCase() as never)
const take = (event: Event) => void set((event.target as HTMLInputElement).value.toUpperCase() as never)
</script>

<template>
  <span class="colour" :class="{ wrong, picked: isPicked }" @focusin="picking.property = property">
    <input
      type="color"
      :value="shown || '#000000'"
      :class="{ empty: !shown }"
      :aria-label="t(`style.property.${property}`)"
      :disabled="!settable"
      @input="pick"
      @change="take"
    />
    <input
      v-model="typed"
      class="code time"
      :aria-label="t('style.colourCode', { property: t(`style.property.${property}`) })"
      :aria-invalid="wrong"
      :placeholder="mixed ? t('style.mixed') : none"
      :disabled="!settable"
      :data-property="property"
      maxlength="7"
      @change="commit"
      @keydown.enter.prevent="commit"
    />
  </span>
</template>

<style scoped>
.colour {
  display: inline-flex;
  flex: 1.6;
  align-items: center;
  gap: 5px;
  min-width: 0;
  padding: 2px 5px;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 4px;
}
.colour.picked {
  border-color: var(--russet);
}
.colour.wrong {
  border-color: var(--heather);
}
input[type='color'] {
  flex: none;
  width: 18px;
  height: 18px;
  padding: 0;
  background: none;
  border: 1px solid var(--soft);
  border-radius: 3px;
}
input[type='color']::-webkit-color-swatch-wrapper {
  padding: 0;
}
input[type='color']::-webkit-color-swatch {
  border: 0;
}
.empty {
  opacity: 0.25;
}
.code {
  width: 100%;
  min-width: 0;
  font-size: 12.5px;
  color: inherit;
  background: none;
  border: 0;
  outline: 0;
}
.colour:focus-within {
  outline: 2px solid var(--tide);
  outline-offset: 1px;
}
</style>
