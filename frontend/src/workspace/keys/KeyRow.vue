<script setup lang="ts">
/** A command, its keys, and the key being set for it. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

import type { CommandId } from '@/kit/commands/catalogue'
import { hasOwnKeys, keysOf, type Slot } from '@/kit/commands/keymap'
import { printed } from '@/kit/commands/keys'
import { nameOf } from '@/kit/commands/titles'
import type { Wanted } from '@/workspace/keys/useKeySetting'

const props = defineProps<{ command: CommandId; wanted: Wanted | null }>()
defineEmits<{ set: [wanted: Wanted]; reset: [] }>()
const { t } = useI18n()

const SLOTS: Slot[] = ['keys', 'text']
const keys = computed(() => keysOf(props.command))
const isWanted = (slot: Slot, key?: string) =>
  props.wanted?.command === props.command && props.wanted.slot === slot && props.wanted.instead === key
</script>

<template>
  <li class="row" :class="{ on: wanted?.command === command }" :data-key-row="command">
    <span class="name">
      {{ nameOf(command) }}
      <button v-if="hasOwnKeys(command)" type="button" class="reset" :data-reset="command" @click="$emit('reset')">{{ t('keys.reset') }}</button>
    </span>
    <span v-for="slot in SLOTS" :key="slot" class="caps" :class="slot">
      <button
        v-for="key in keys[slot]" :key="key" type="button" class="cap" :class="{ asked: isWanted(slot, key) }" :data-key="key"
        :aria-label="t(`keys.change.${slot}`, { command: nameOf(command), key: printed(key) })" :title="t('keys.changeThis')"
        @click="$emit('set', { command, slot, instead: key })"
      >
        <kbd>{{ isWanted(slot, key) ? '…' : printed(key) }}</kbd>
      </button>
      <button
        type="button" class="cap add" :class="{ asked: isWanted(slot) }" :data-add="slot"
        :aria-label="t(`keys.add.${slot}`, { command: nameOf(command) })" :title="t('keys.addOne')"
        @click="$emit('set', { command, slot })"
      >
        <kbd>{{ isWanted(slot) ? '…' : '+' }}</kbd>
      </button>
    </span>
    <slot />
  </li>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 104px 120px;
  gap: 4px 8px;
  align-items: center;
  padding: 2px 6px;
  border-radius: 5px;
}
.row.on {
  background: var(--russet-wash);
}
.name {
  overflow-wrap: anywhere;
}
.caps {
  display: flex;
  flex-wrap: wrap;
  gap: 3px;
}
.cap kbd {
  cursor: pointer;
}
.cap:hover kbd,
.cap.asked kbd {
  border-color: var(--russet);
}
.add {
  opacity: 0;
}
.row:hover .add,
.row:focus-within .add,
.add.asked {
  opacity: 1;
}
.reset {
  margin-left: 6px;
  font-size: 12px;
  color: var(--tide);
  text-decoration: underline;
}
</style>
