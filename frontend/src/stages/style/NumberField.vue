<script setup lang="ts">
/** A number of a look, typed in its unit; the arrows up and down go by a step, with Shift by ten. */
import { computed, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import { repeatedGesture } from '@/session/repeats'
import { useLooks } from '@/stages/style/looksStore'
import { NUMBERS, type Property, shownNumber, storedNumber } from '@/stages/style/properties'
import { useProperty } from '@/stages/style/useProperty'

const props = defineProps<{ property: Property; placeholder?: string }>()

const { t } = useI18n()
const looks = useLooks()
const { value, mixed, settable, set } = useProperty(props.property)
const kind = NUMBERS[props.property]!

const shown = computed(() => (mixed.value || value.value === null ? '' : String(shownNumber(kind, value.value as number, looks.base))))
const typed = ref('')
const wrong = ref(false)
watch(shown, (text) => (typed.value = text), { immediate: true })

const stepGesture = repeatedGesture()

function take(next: number, gesture?: string) {
  wrong.value = false
  void looks.settle({ [props.property]: next }, gesture)
}

function commit() {
  if (typed.value === shown.value) return
  const next = storedNumber(kind, typed.value, looks.base)
  wrong.value = next === null
  if (next === null) return
  if (next !== value.value) void set(next as never)
  typed.value = String(shownNumber(kind, next, looks.base))
}

function step(direction: 1 | -1, event: KeyboardEvent) {
  const from = storedNumber(kind, typed.value, looks.base) ?? 0
  const shownNow = shownNumber(kind, from, looks.base) + direction * kind.step * (event.shiftKey ? 10 : 1)
  const next = storedNumber(kind, String(shownNow), looks.base)!
  typed.value = String(shownNumber(kind, next, looks.base))
  take(next, stepGesture(props.property))
}

function undoTyping(event: KeyboardEvent) {
  if (typed.value === shown.value) return
  // The first Esc takes back what was typed, the next one leaves.
  event.stopPropagation()
  typed.value = shown.value
  wrong.value = false
}
</script>

<template>
  <span class="number" :class="{ wrong }" :title="t(`style.property.${property}`)">
    <input
      v-model="typed"
      inputmode="decimal"
      :aria-label="t(`style.property.${property}`)"
      :aria-invalid="wrong"
      :disabled="!settable"
      :placeholder="mixed ? t('style.mixed') : placeholder"
      :data-property="property"
      @change="commit"
      @keydown.enter.prevent="commit"
      @keydown.up.prevent.stop="step(1, $event)"
      @keydown.down.prevent.stop="step(-1, $event)"
      @keydown.esc="undoTyping"
    />
    <small>{{ kind.unit }}</small>
  </span>
</template>

<style scoped>
.number {
  display: inline-flex;
  flex: 1;
  align-items: baseline;
  min-width: 0;
  padding: 2px 4px;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 4px;
}
.number:focus-within {
  outline: 2px solid var(--tide);
  outline-offset: 1px;
}
.number.wrong {
  border-color: var(--heather);
}
input {
  width: 100%;
  min-width: 0;
  font-family: var(--time-font);
  font-size: 12.5px;
  color: inherit;
  background: none;
  border: 0;
  outline: 0;
}
input:disabled {
  color: var(--soft);
}
small {
  flex: none;
  padding-left: 2px;
  font-size: 11.5px;
  color: var(--soft);
}
</style>
