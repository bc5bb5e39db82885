<script setup lang="ts">
/** What can be put on a packing list: caption files with what they leave out of the track, films, timelines, papers. */
import { computed, nextTick, onMounted, ref } from 'vue'
import { useI18n } from 'vue-i18n'

import type { FormatView } from '@/api/client'
import PanelHead from '@/kit/PanelHead.vue'
import PartHead from '@/kit/PartHead.vue'
import { usePacking } from '@/session/packingStore'
import { useProject } from '@/session/projectStore'
import { useTrack } from '@/session/tracksStore'
import { useLosses } from '@/stages/deliver/losses'
import { KINDS, type Offered, thingOf, useThings } from '@/stages/deliver/things'

const props = defineProps<{ formats: readonly FormatView[] }>()
const emit = defineEmits<{ close: []; added: [] }>()
const { t } = useI18n()
const packing = usePacking()
const project = useProject()
const track = useTrack()
const lost = useLosses()
const { trackName } = useThings()
const list = ref<HTMLElement | null>(null)

/** Timelines have a place of their own; what the spec asks for stands first. */
const files = computed(() =>
  props.formats.filter(({ name }) => name !== 'otio' && name !== 'edl').sort((a, b) => Number(b.name === track.spec?.file_format) - Number(a.name === track.spec?.file_format)),
)
const all = computed(() => (project.project?.tracks ?? []).map(({ id }) => id))

function addFile(format: string) {
  void packing.add({ kind: 'captions', track: track.id, format, flatten: !(track.spec?.overlap_allowed ?? false) })
  emit('added')
}
function add(kind: Offered) {
  void packing.add(thingOf(kind, track.id, all.value))
  emit('added')
}
/** The arrows go from one to the next, as in any list. */
function step(event: KeyboardEvent, by: number) {
  const buttons = [...(list.value?.querySelectorAll<HTMLElement>('button[data-offer]') ?? [])]
  const at = buttons.indexOf(event.target as HTMLElement)
  buttons[Math.min(Math.max(at + by, 0), buttons.length - 1)]?.focus()
}
onMounted(() => void nextTick(() => list.value?.querySelector<HTMLElement>('button[data-offer]')?.focus()))
</script>

<template>
  <section
    ref="list"
    class="add"
    :aria-label="t('packing.add')"
    data-adding
    @keydown.down.prevent.stop="step($event, 1)"
    @keydown.up.prevent.stop="step($event, -1)"
    @keydown.esc.stop="emit('close')"
  >
    <PanelHead :title="t('packing.add')" @close="emit('close')" />
    <PartHead :title="t('packing.filesOf', { track: trackName(track.id) })" />
    <button v-for="format in files" :key="format.name" type="button" :data-offer="format.name" @click="addFile(format.name)">
      <span>{{ format.title }} <small v-if="format.name === track.spec?.file_format" class="asked">{{ t('deliver.asked') }}</small></span>
      <small :class="format.losses.length ? 'loses' : 'keeps'">{{ format.losses.length ? lost(format.losses) : t('packing.keepsAll') }}</small>
    </button>
    <PartHead :title="t('packing.filmsAndMore')" />
    <button v-for="kind in KINDS" :key="kind" type="button" :data-offer="kind" @click="add(kind)">
      <span>{{ t(`packing.kind.${kind}`) }}</span>
      <small class="soft">{{ t(`packing.kindAbout.${kind}`) }}</small>
    </button>
  </section>
</template>

<style scoped>
.add {
  display: grid;
  gap: 2px;
  padding: 10px 16px 14px;
}
h3 {
  padding: 10px 0 4px;
}
button[data-offer] {
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(0, 3fr);
  gap: 10px;
  padding: 4px 6px;
  text-align: left;
  border-radius: 4px;
}
button[data-offer]:is(:hover, :focus-visible) {
  background: var(--sand);
  outline: none;
}
button[data-offer]:focus-visible {
  box-shadow: inset 0 0 0 2px var(--tide);
}
.asked,
.keeps {
  color: var(--reed);
}
.loses {
  color: var(--straw);
}
</style>
