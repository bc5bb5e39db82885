<script setup lang="ts">
/** The captions that the transcript would give, seen before they take the place of those there are. */
import { computed, onMounted, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'
import { useRouter } from 'vue-router'

import { LETTERS, useMaking, WAYS } from '@/making/makingStore'
import { usePlayer } from '@/player/playerStore'
import { useProject } from '@/project/projectStore'
import { useTrack } from '@/project/trackStore'
import { useCommands } from '@/shared/commands'
import { shortClock } from '@/shared/time'
import ChoiceRow from '@/timing/ChoiceRow.vue'
import { useTranscript } from '@/transcript/transcriptStore'

const { t } = useI18n()
const router = useRouter()
const project = useProject()
const track = useTrack()
const player = usePlayer()
const transcript = useTranscript()
const making = useMaking()
const placed = ref(false)

const ways = computed(() => WAYS.map((value) => ({ value, title: t(`make.way.${value}`) })))
const letters = computed(() => LETTERS.map((value) => ({ value, title: t(`make.letters.${value}`) })))
const captions = computed(() => making.preview?.captions ?? [])
/** Whether the track would be another. */
const changes = computed(() => Boolean(making.preview && making.preview.made + making.preview.replaced))
const spec = computed(() => project.specs.find((one) => one.id === making.specId) ?? track.spec)

onMounted(async () => {
  placed.value = true
  await transcript.closed()
  await track.settled()
  void making.look()
})
watch([() => making.way, () => making.shape, () => making.letters, () => making.keep, () => making.specId, () => track.captions, () => project.words], () => void making.look(), { deep: 1 })

async function accept() {
  if (!changes.value || making.busy) return
  if (await making.accept()) await router.push({ name: 'time' })
}

useCommands([{ id: 'make-accept', keys: ['Ctrl+Enter'], textKeys: ['Ctrl+Enter'], run: () => void accept(), enabled: () => changes.value }])
</script>

<template>
  <div class="make">
    <p v-if="making.problem" class="problem" role="alert">{{ making.problem }}</p>
    <v-virtual-scroll v-else class="would-be" :items="captions" item-height="52" role="list" :aria-label="t('make.preview')" tabindex="0">
      <template #default="{ item, index }">
        <div class="one" :class="{ kept: item.kept }" role="listitem" data-would-be @click="player.hear(item.in_ms, item.out_ms)">
          <span class="time">{{ index + 1 }}</span>
          <span class="time">{{ shortClock(item.in_ms) }}</span>
          <p>{{ item.text }}</p>
          <small v-if="item.kept" class="stays">{{ t('make.stays') }}</small>
          <small v-else-if="item.rules.length" class="breaks">{{ item.rules.map((rule) => t(`check.rule.${rule}`)).join(', ') }}</small>
        </div>
      </template>
    </v-virtual-scroll>
    <Teleport v-if="placed" to="#beside">
      <section class="dials" :aria-label="t('make.dials')">
        <ChoiceRow v-model="making.way" :label="t('make.dials')" :options="ways" />
        <div v-if="making.way === 'shape'" class="line">
          <label>{{ t('make.words') }} <input v-model.number="making.shape.words_per_line" type="number" min="1" max="20" data-words-a-line></label>
          <label>{{ t('make.lines') }} <input v-model.number="making.shape.lines" type="number" min="1" max="4" data-lines></label>
        </div>
        <label class="line">
          {{ making.way === 'spec' ? t('make.spec') : t('make.judged') }}
          <select v-model="making.specId" data-make-spec>
            <option value="">{{ t('make.trackSpec', { spec: track.spec?.name }) }}</option>
            <option v-for="one in project.specs" :key="one.id" :value="one.id">{{ one.name }}</option>
          </select>
        </label>
        <div class="line wide">
          <span>{{ t('make.lettersLabel') }}</span>
          <ChoiceRow v-model="making.letters" :label="t('make.lettersLabel')" :options="letters" />
        </div>
        <label v-if="track.captions.length" class="check"><input v-model="making.keep" type="checkbox" data-keep> {{ t('make.keep') }}</label>
        <template v-if="making.preview">
          <p class="becomes" data-becomes>
            {{ t('make.made', making.preview.made) }}<template v-if="making.preview.kept">, {{ t('make.kept', making.preview.kept) }}</template><template v-if="making.preview.replaced">, {{ t('make.replaced', making.preview.replaced) }}</template>.
          </p>
          <ul class="rules">
            <li v-for="{ rule, weight, count: broken } in making.preview.rules" :key="rule + weight" :class="weight">
              <span>{{ t(`check.rule.${rule}`) }}</span><b class="time">{{ broken }}</b>
            </li>
            <li v-if="!making.preview.rules.length" class="fine">{{ t('meter.fine', { spec: spec?.name }) }}</li>
          </ul>
          <div class="line">
            <v-btn color="primary" variant="flat" :disabled="!changes || making.busy" data-accept-captions @click="accept">{{ t('make.accept', making.preview.made) }}</v-btn>
            <kbd>Ctrl Enter</kbd>
          </div>
        </template>
      </section>
    </Teleport>
  </div>
</template>

<style scoped>
.make {
  display: flex;
  flex: 1;
  flex-direction: column;
  min-height: 0;
}
.problem {
  margin: 24px;
  color: var(--heather);
}
.would-be {
  flex: 1;
  padding: 12px 20px 40px;
  outline-offset: -2px;
}
.one {
  display: grid;
  grid-template-columns: 34px 68px minmax(0, 1fr) auto;
  gap: 10px;
  max-width: 720px;
  padding: 8px 10px;
  border-bottom: 1px solid var(--line);
  cursor: pointer;
}
.one:hover {
  background: var(--paper);
}
.one .time {
  padding-top: 3px;
  font-size: 12px;
  color: var(--soft);
}
.one p {
  margin: 0;
  font-size: 16px;
  line-height: 1.3;
  white-space: pre-line;
  overflow-wrap: anywhere;
}
.one small {
  max-width: 150px;
  font-size: 12px;
  text-align: right;
}
.kept {
  box-shadow: inset 3px 0 var(--tide);
}
.kept p {
  color: var(--soft);
}
.stays {
  color: var(--tide);
}
.breaks {
  color: var(--heather);
}
.dials {
  display: grid;
  gap: 14px;
  padding: 14px 16px;
  font-size: 13px;
}
.line {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px;
}
.line.wide {
  display: grid;
  gap: 4px;
}
.line.wide > span {
  color: var(--soft);
}
input[type='number'],
select {
  padding: 4px 8px;
  font: 13px var(--text-font);
  color: var(--ink);
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 6px;
}
input[type='number'] {
  width: 58px;
}
.check {
  display: flex;
  align-items: center;
  gap: 8px;
}
input[type='checkbox'] {
  accent-color: var(--russet);
}
.becomes {
  margin: 4px 0 0;
  font-size: 15px;
  font-weight: 600;
}
.rules {
  display: grid;
  gap: 5px;
  margin: 0;
  padding: 0;
  list-style: none;
}
.rules li {
  display: flex;
  justify-content: space-between;
  max-width: 300px;
}
.rules .error b {
  color: var(--heather);
}
.rules .advice b {
  color: var(--straw);
}
.rules .fine {
  color: var(--reed);
}
</style>
