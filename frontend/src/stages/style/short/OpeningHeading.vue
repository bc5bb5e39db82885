<script setup lang="ts">
/** One or two lines that open the clip, in a style of their own: a caption that is locked, so that no rhythm takes it. */
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import { answered, client, named, type Schemas } from '@/api/client'
import { keysWaitFor, useCommands } from '@/kit/commands/commands'
import KeyCap from '@/kit/commands/KeyCap.vue'
import { usePlayer } from '@/picture/playerStore'
import { textOf } from '@/session/captions'
import { takenIn } from '@/session/takingIn'
import { newId, useTrack } from '@/session/tracksStore'
import { useVersions } from '@/session/versionsStore'
import { useShort } from '@/stages/style/short/shortStore'
import { useStyles } from '@/styling/stylesStore'

/** So many are in sight at once. */
const SHOWN = 4

const { t } = useI18n()
const track = useTrack()
const player = usePlayer()
const styles = useStyles()
const short = useShort()
const versions = useVersions()
const field = ref<HTMLTextAreaElement | null>(null)
const busy = ref(false)
const problem = ref('')
const styleName = computed(() => t('short.heading.style'))
const heading = computed(() => track.captions.find(({ style, locked, in_ms }) => locked && in_ms === 0 && style === styleName.value))
const written = ref('')
watch(heading, (now) => (written.value = now ? textOf(now) : ''), { immediate: true })

const proposed = shallowRef<readonly Schemas['PhraseView'][]>([])
async function propose() {
  proposed.value = await answered(client.GET('/api/tracks/{track_id}/headings', { params: { path: { track_id: track.id } } })).catch(() => [])
}
onMounted(propose)
watch([() => track.id, () => short.state?.words], () => void propose())

/** Puts the heading there, within what the viewer sees; without words it is taken away. */
async function store(text = written.value) {
  await short.settled()
  const wanted = text.split('\n').map((line) => line.trim()).filter(Boolean).slice(0, 2).join('\n')
  const now = heading.value
  if (wanted === (now ? textOf(now) : '')) return
  const params = { path: { track_id: track.id } }
  const key = named(newId())
  const isNew = !styles.byName.has(styleName.value)
  const gesture = newId()
  const put = async () => {
    const body = { base_revision: track.seen(), gesture, text: wanted, style: styleName.value, instead: now?.id ?? null }
    const edit = await answered(client.PUT('/api/tracks/{track_id}/heading', { params, ...key, body }))
    if (!isNew) return edit
    // With the style, the head of what is drawn is another: the track is read whole.
    await Promise.all([styles.read(), track.reload(), versions.shown && versions.read()])
    return undefined
  }
  if (!(await takenIn(track, put, { busy, problem }))) return void (written.value = now ? textOf(now) : '')
  if (wanted && heading.value) player.place(heading.value.out_ms / 2)
}
/** Takes the proposal after the one that is there. */
function next() {
  const words = written.value.replaceAll('\n', ' ')
  const at = proposed.value.findIndex(({ text }) => text === words)
  const one = proposed.value[(at + 1) % proposed.value.length]
  if (one) void keysWaitFor(store(one.text))
}
useCommands([
  { id: 'heading-write', run: () => field.value?.focus() },
  { id: 'heading-next', run: next, enabled: () => proposed.value.length > 0, why: 'words' },
])
</script>

<template>
  <p class="section-title">{{ t('short.heading.title') }} <KeyCap command="heading-write" /></p>
  <textarea ref="field" v-model="written" rows="2" maxlength="200" :placeholder="t('short.heading.hint')" :aria-label="t('short.heading.title')" data-heading @change="store()" @keydown.ctrl.enter.prevent="field?.blur()" />
  <p v-if="proposed.length" class="proposed">
    <span class="soft">{{ t('short.heading.proposed') }} <KeyCap command="heading-next" /></span>
    <button v-for="one in proposed.slice(0, SHOWN)" :key="one.start_ms" type="button" class="link" :data-proposed="one.text" @click="store(one.text)">{{ one.text }}</button>
  </p>
  <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
</template>

<style scoped>
.section-title {
  margin: 8px 0 0;
}
textarea {
  padding: 4px 8px;
  font-size: 13.5px;
  resize: none;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 4px;
}
.proposed {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
  margin: 0;
}
.problem {
  margin: 0;
  color: var(--heather);
}
</style>
