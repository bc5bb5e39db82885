<script setup lang="ts">
/** Every command with its keys, in a panel beside the work. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

import { commands, printed } from '@/kit/commands'

defineEmits<{ close: [] }>()
const { t } = useI18n()
const list = computed(() => [...commands.values()].filter((command) => command.keys.length || command.textKeys?.length))
</script>

<template>
  <aside class="sheet" :aria-label="t('keys.title')">
    <header>
      <h2>{{ t('keys.title') }}</h2>
      <v-btn size="small" @click="$emit('close')">{{ t('keys.close') }}</v-btn>
    </header>
    <p class="soft">{{ t('keys.inText') }}</p>
    <dl>
      <template v-for="command in list" :key="command.id">
        <dt>{{ t(`command.${command.id}`) }}</dt>
        <dd>
          <kbd v-for="key in command.keys" :key="key">{{ printed(key) }}</kbd>
          <span v-if="command.textKeys?.length" class="soft">
            <kbd v-for="key in command.textKeys.filter((k) => !command.keys.includes(k))" :key="key" class="faint">{{ printed(key) }}</kbd>
          </span>
        </dd>
      </template>
    </dl>
  </aside>
</template>

<style scoped>
.sheet {
  position: absolute;
  right: 0;
  top: 0;
  bottom: 0;
  width: 432px;
  max-width: 100%;
  overflow-y: auto;
  padding: 14px 18px;
  background: var(--paper);
  border-left: 1px solid var(--line);
  z-index: 30;
}
header {
  display: flex;
  justify-content: space-between;
  align-items: center;
}
h2 {
  font-size: 16px;
  margin: 0;
}
dl {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 7px 14px;
  margin: 10px 0;
}
dd {
  margin: 0;
  display: flex;
  gap: 6px;
  justify-content: flex-end;
}
.faint {
  color: var(--soft);
}
</style>
