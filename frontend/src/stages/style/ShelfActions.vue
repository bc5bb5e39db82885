<script setup lang="ts">
/** What can be done with the style that is chosen, beside the list of them. */
import { computed, nextTick, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import { useProject } from '@/session/projectStore'
import { useTrack } from '@/session/tracksStore'
import { useCommands } from '@/kit/commands/commands'
import { titleOf } from '@/kit/commands/titles'
import { useSelection } from '@/score/selectionStore'
import { useShelf } from '@/stages/style/shelfStore'
import { useStyles } from '@/styling/stylesStore'

const { t } = useI18n()
const project = useProject()
const track = useTrack()
const selection = useSelection()
const styles = useStyles()
const shelf = useShelf()

const renaming = ref(false)
const removing = ref(false)
const name = ref('')
const instead = ref<string | null>(null)
const field = ref<HTMLInputElement | null>(null)
const question = ref<HTMLSelectElement | null>(null)

const style = computed(() => (shelf.at ? styles.byName.get(shelf.at) : undefined))
const used = computed(() => {
  const one = style.value
  if (!one) return ''
  const captions = Object.values(one.captions).reduce((sum, count) => sum + count, 0)
  const isDefault = project.project?.tracks.some((info) => info.style === one.name)
  return [
    captions ? t('style.usedBy', captions) : '',
    one.speakers.length ? t('style.usedBySpeakers', { speakers: one.speakers.join(', ') }) : '',
    isDefault ? t('style.usedAsDefault') : '',
  ].filter(Boolean).join(', ')
})
const others = computed(() => styles.styles.filter((one) => one.name !== style.value?.name))
watch(() => shelf.at, () => (renaming.value = removing.value = false))

async function beginRenaming() {
  if (!style.value) return
  name.value = style.value.name
  removing.value = false
  renaming.value = true
  await nextTick()
  field.value?.select()
}
async function rename() {
  const [from, to] = [style.value?.name, name.value.trim()]
  renaming.value = false
  if (!from || !to || from === to) return
  await styles.rename(from, to)
  if (styles.byName.has(to)) shelf.pressed = to
}
async function beginRemoving() {
  if (!style.value) return
  renaming.value = false
  instead.value = null
  removing.value = true
  await nextTick()
  question.value?.focus()
}
async function remove() {
  removing.value = false
  if (style.value) await styles.remove(style.value.name, instead.value)
}
async function makeNew() {
  if (await shelf.makeNew()) await beginRenaming()
}

const has = () => style.value !== undefined
useCommands([
  { id: 'style-new', run: () => void makeNew(), enabled: () => selection.current !== undefined, why: 'caption' },
  { id: 'style-copy', run: () => void shelf.copy(style.value!.name), enabled: has, why: 'style' },
  { id: 'style-rename', run: () => void beginRenaming(), enabled: has, why: 'style' },
  { id: 'style-keep', run: () => void shelf.keep(style.value!.name), enabled: has, why: 'style' },
  { id: 'style-usual', run: () => void styles.makeUsual(style.value!.name), enabled: has, why: 'style' },
  { id: 'style-of-new', run: () => void styles.keep(style.value!.name, style.value!.look, true), enabled: has, why: 'style' },
  { id: 'style-take-newer', run: () => void styles.take(style.value!.name), enabled: () => Boolean(style.value?.is_older), why: 'style' },
  { id: 'style-remove', run: () => void beginRemoving(), enabled: has, why: 'style' },
])
</script>

<template>
  <form v-if="renaming" class="ask" @submit.prevent="rename" @keydown.esc.stop.prevent="renaming = false">
    <label>{{ t('style.nameOf') }} <input ref="field" v-model="name" class="field" maxlength="100" data-style-name /></label>
    <v-btn size="x-small" color="primary" type="submit">{{ t('style.rename') }}</v-btn>
    <v-btn size="x-small" @click="renaming = false">{{ t('style.leave') }}</v-btn>
  </form>
  <form v-else-if="removing" class="ask" data-removing @submit.prevent="remove" @keydown.esc.stop.prevent="removing = false">
    <span>{{ used ? t('style.removeUsed', { style: style?.name, used }) : t('style.removeUnused', { style: style?.name }) }}</span>
    <label v-if="used">
      {{ t('style.instead') }}
      <select ref="question" v-model="instead" class="field" data-instead>
        <option :value="null">{{ styles.usual && styles.usual !== style?.name ? styles.usual : t('style.shippedName') }}</option>
        <option v-for="one in others" :key="one.name" :value="one.name">{{ one.name }}</option>
      </select>
    </label>
    <v-btn size="x-small" color="primary" type="submit" data-remove-style>{{ t('style.remove') }}</v-btn>
    <v-btn size="x-small" @click="removing = false">{{ t('style.leave') }}</v-btn>
  </form>
  <template v-else>
    <template v-if="style">
      <b class="of">{{ style.name }}</b>
      <button type="button" class="link" :title="titleOf('style-rename')" @click="beginRenaming">{{ t('style.rename') }}</button>
      <button type="button" class="link" :title="titleOf('style-copy')" @click="shelf.copy(style.name)">{{ t('style.copy') }}</button>
      <button type="button" class="link" :title="titleOf('style-keep')" data-keep @click="shelf.keep(style.name)">
        {{ style.kept && !style.is_older ? t('style.keepNoMore') : t('style.keep') }}
      </button>
      <button v-if="style.is_older" type="button" class="link" :title="titleOf('style-take-newer')" @click="styles.take(style.name)">{{ t('style.takeNewer') }}</button>
      <button v-if="styles.usual !== style.name" type="button" class="link" :title="titleOf('style-usual')" data-usual @click="styles.makeUsual(style.name)">
        {{ t('style.makeUsual') }}
      </button>
      <button type="button" class="link" :title="titleOf('style-remove')" @click="beginRemoving">{{ t('style.remove') }}</button>
    </template>
    <v-btn size="x-small" :disabled="!selection.current || !track.loaded" :title="titleOf('style-new')" data-new-style @click="makeNew">{{ t('style.new') }}</v-btn>
  </template>
</template>

<style scoped>
.ask {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 10px;
  font-size: 13px;
}
.of {
  font-size: 12.5px;
}
.link {
  font-size: 12.5px;
  color: var(--tide);
  text-decoration: underline;
  text-underline-offset: 2px;
}
.field[data-style-name] {
  width: 160px;
}
</style>
