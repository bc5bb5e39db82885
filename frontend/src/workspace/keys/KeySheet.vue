<script setup lang="ts">
/** Every command with its keys, in a panel beside the work: to be looked up, and to be given others. */
import { computed, nextTick, ref } from 'vue'
import { useI18n } from 'vue-i18n'

import { useFocusReturn } from '@/kit/focusReturn'
import { AREAS, type CommandId, DECLARED } from '@/kit/commands/catalogue'
import {
  alsoOn, changedCount, exportedKeys, importKeys, keysOf, NoKeys, resetAllKeys, resetKeys,
} from '@/kit/commands/keymap'
import { printed } from '@/kit/commands/keys'
import { nameOf } from '@/kit/commands/titles'
import KeyRow from '@/workspace/keys/KeyRow.vue'
import { useKeySetting, type Wanted } from '@/workspace/keys/useKeySetting'

const emit = defineEmits<{ close: [] }>()
const { t } = useI18n()
const field = ref<HTMLInputElement | null>(null)
const file = ref<HTMLInputElement | null>(null)
const sheet = ref<HTMLElement | null>(null)
const looked = ref('')
const said = ref('')

const { wanted, pressed, wrong, others, begin, leave, give, remove } = useKeySetting(backToRow)

/** A command that shares the keys of another, and has none of its own, is changed with that one. */
const listed = [...DECLARED.values()].filter((one) => !one.sharesWith || one.keys.length || one.text.length)
const matches = (id: CommandId) => {
  const words = looked.value.toLowerCase().split(/\s+/).filter(Boolean)
  const { keys, text } = keysOf(id)
  const told = [nameOf(id), ...[...keys, ...text].map(printed)].join(' ').toLowerCase()
  return words.every((word) => told.includes(word))
}
const areas = computed(() =>
  AREAS.map((area) => ({ area, ids: listed.filter((one) => one.area === area && matches(one.id)).map(({ id }) => id) })).filter(
    ({ ids }) => ids.length,
  ),
)
const names = (ids: readonly CommandId[]) => ids.map((id) => t('keys.quoted', { name: nameOf(id) })).join(', ')

/** Where a key given just now means something else too: what comes first there. */
function shadowsOf(id: CommandId, key: string): string {
  const { before, behind } = alsoOn(id, key)
  const areaOf = (ids: CommandId[]) => [...new Set(ids.map((other) => t(`keys.area.${DECLARED.get(other)!.area}`)))].join(', ')
  if (before.length) return t('keys.notThere', { key: printed(key), where: areaOf(before), others: names(before) })
  return behind.length ? t('keys.comesFirst', { key: printed(key), others: names(behind) }) : ''
}

let last: Wanted | null = null
function ask(what: Wanted) {
  said.value = ''
  last = what
  begin(what)
  void nextTick(() => sheet.value?.querySelector('[data-key-question]')?.scrollIntoView({ block: 'nearest' }))
}

function backToRow() {
  const { command, slot } = last!
  if (pressed.value && keysOf(command)[slot].includes(pressed.value)) said.value = shadowsOf(command, pressed.value)
  void nextTick(() => sheet.value?.querySelector<HTMLElement>(`[data-key-row="${command}"] .${slot} .cap`)?.focus())
}

function escaped() {
  if (looked.value) looked.value = ''
  else emit('close')
}

function save() {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(new Blob([exportedKeys()], { type: 'application/json' }))
  link.download = 'dunlin-keys.json'
  link.click()
  URL.revokeObjectURL(link.href)
}

async function load(event: Event) {
  const input = event.target as HTMLInputElement
  const chosen = input.files?.[0]
  input.value = ''
  if (!chosen) return
  try {
    const left = importKeys(await chosen.text())
    said.value = left.length ? t('keys.importedBut', { commands: left.join(', ') }) : t('keys.imported')
  } catch (problem) {
    if (!(problem instanceof NoKeys)) throw problem
    const { key = '', command = '', other = '' } = problem.values
    const name = (id: string) => (DECLARED.has(id as CommandId) ? nameOf(id as CommandId) : id)
    said.value = t(`keys.wrong.${problem.code}`, { key: printed(key), command: name(command), other: name(other) })
  }
}

useFocusReturn(() => field.value?.focus())
</script>

<template>
  <aside ref="sheet" class="sheet" :aria-label="t('keys.title')" @keydown.esc.stop.prevent="escaped">
    <header>
      <h2>{{ t('keys.title') }}</h2>
      <v-btn size="small" data-export-keys :disabled="!changedCount()" @click="save">{{ t('keys.export') }}</v-btn>
      <v-btn size="small" data-import-keys @click="file?.click()">{{ t('keys.import') }}</v-btn>
      <v-btn size="small" data-reset-keys :disabled="!changedCount()" @click="resetAllKeys">{{ t('keys.resetAll') }}</v-btn>
      <v-btn size="small" @click="$emit('close')">{{ t('keys.close') }}</v-btn>
      <input ref="file" type="file" accept=".json,application/json" hidden :aria-label="t('keys.import')" data-keys-file @change="load" />
    </header>
    <input ref="field" v-model="looked" class="find" type="search" :placeholder="t('keys.find')" :aria-label="t('keys.find')" data-find-key />
    <p class="said" role="status" data-said>{{ said }}</p>
    <div class="list">
      <p class="heads soft"><span /><span>{{ t('keys.outside') }}</span><span>{{ t('keys.alsoInText') }}</span></p>
      <section v-for="{ area, ids } in areas" :key="area">
        <h3>{{ t(`keys.area.${area}`) }}</h3>
        <ul>
          <KeyRow v-for="id in ids" :key="id" :command="id" :wanted="wanted" @set="ask" @reset="resetKeys(id)">
            <div v-if="wanted?.command === id" class="question" role="alert" data-key-question>
              <p v-if="!pressed">{{ t('keys.press') }}</p>
              <p v-else-if="wrong">{{ t(`keys.unfit.${wrong}`, { key: printed(pressed) }) }}</p>
              <p v-else-if="others.length">{{ t('keys.taken', { key: printed(pressed), others: names(others) }) }}</p>
              <v-btn v-if="pressed && others.length" size="small" color="primary" data-give @click="give">{{ t('keys.giveHere') }}</v-btn>
              <v-btn v-if="wanted.instead" size="small" data-take-away @click="remove">{{ t('keys.takeAway', { key: printed(wanted.instead) }) }}</v-btn>
              <v-btn size="small" data-leave-key @click="leave">{{ t('keys.leave') }}</v-btn>
            </div>
          </KeyRow>
        </ul>
      </section>
      <p v-if="!areas.length" class="soft">{{ t('keys.nothingFound') }}</p>
    </div>
  </aside>
</template>

<style scoped>
.sheet {
  position: absolute;
  inset: 0 0 0 auto;
  width: 100%;
  display: flex;
  flex-direction: column;
  padding: 12px 14px 0;
  background: var(--paper);
  z-index: 30;
}
header {
  display: flex;
  gap: 6px;
  align-items: center;
}
h2 {
  flex: 1;
  font-size: 16px;
  margin: 0;
}
.find {
  margin-top: 10px;
  padding: 5px 10px;
  color: var(--ink);
  background: var(--sand);
  border: 1px solid var(--line);
  border-radius: 6px;
  font: inherit;
}
.said {
  margin: 0;
  color: var(--tide);
}
.said:not(:empty) {
  padding: 6px 2px;
}
.list {
  flex: 1;
  overflow-y: auto;
  margin-top: 6px;
  padding-bottom: 14px;
}
.heads {
  position: sticky;
  top: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 104px 120px;
  gap: 8px;
  margin: 0;
  padding: 3px 6px;
  font-size: 12px;
  background: var(--paper);
}
h3 {
  margin: 10px 6px 2px;
  font-size: 13px;
  color: var(--tide);
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
.question {
  grid-column: 1 / 4;
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
  padding: 2px 0 6px;
}
.question p {
  flex-basis: 100%;
  margin: 0;
}
</style>
