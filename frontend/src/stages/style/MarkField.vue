<script setup lang="ts">
/** A property that is on or off, as a mark to press. */
import { useI18n } from 'vue-i18n'

import { useProperty } from '@/stages/style/useProperty'

const props = defineProps<{ property: 'italic' | 'underline' | 'strike' | 'depth' }>()
const { t } = useI18n()
const { value, mixed, settable, set } = useProperty(props.property)
</script>

<template>
  <button
    type="button"
    :class="[property, { on: value && !mixed, mixed }]"
    :aria-pressed="mixed ? 'mixed' : Boolean(value)"
    :disabled="!settable"
    :data-property="property"
    @click="set(!value as never)"
  >
    {{ t(`style.mark.${property}`) }}
  </button>
</template>

<style scoped>
button {
  flex: none;
  padding: 2px 8px;
  font-size: 12.5px;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 4px;
}
.on {
  color: var(--on-russet);
  background: var(--russet);
  border-color: var(--russet);
}
.mixed {
  border-style: dashed;
}
.italic {
  font-style: italic;
}
.underline {
  text-decoration: underline;
}
.strike {
  text-decoration: line-through;
}
button:disabled {
  color: var(--soft);
}
</style>
