<script setup lang="ts">
/** What a packing list is called, and by what its files are named. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

import { usePacking } from '@/session/packingStore'

const FIELDS = ['title', 'language', 'what', 'version', 'date', 'spec', 'list'] as const

const { t } = useI18n()
const packing = usePacking()
const text = (event: Event) => (event.target as HTMLInputElement).value.trim()
const list = computed(() => packing.shown)

function rename(event: Event) {
  const name = text(event)
  if (name) void packing.change({ name })
  else (event.target as HTMLInputElement).value = list.value?.name ?? ''
}
function countVersion(event: Event) {
  const version = Number(text(event))
  if (Number.isInteger(version) && version >= 1 && version <= 9999) void packing.change({ version })
}
</script>

<template>
  <div v-if="list" class="head">
    <label><span>{{ t('packing.listName') }}</span><input class="field name" :value="list.name" maxlength="200" data-list-name @change="rename" /></label>
    <label :title="t('packing.fields', { fields: FIELDS.map((field) => `{${field}}`).join(' ') })">
      <span>{{ t('packing.pattern') }}</span><input class="field time pattern" :value="list.pattern" maxlength="300" data-list-pattern @change="packing.change({ pattern: text($event) || list.pattern })" />
    </label>
    <label><span>{{ t('packing.version') }}</span><input class="field time version" type="number" min="1" max="9999" :value="list.version" data-list-version @change="countVersion" /></label>
    <button type="button" class="link" data-list-remove @click="packing.remove()">{{ t('packing.removeList') }}</button>
  </div>
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 14px;
  padding: 4px 0 12px;
  font-size: 13px;
}
label {
  display: flex;
  align-items: center;
  gap: 8px;
}
label span {
  color: var(--soft);
}
.name {
  width: 130px;
}
.pattern {
  width: 264px;
}
.version {
  width: 58px;
}
.link {
  margin-left: auto;
}
</style>
