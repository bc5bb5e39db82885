<script setup lang="ts">
/** One list of what a caption, or its selected words, can be: taken by a digit, or by arrows and Enter. */
import { computed, nextTick, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import PanelHead from '@/kit/PanelHead.vue'
import { useProject } from '@/session/projectStore'
import { type Choice, useChoices } from '@/styling/choices'
import { useStyling } from '@/styling/stylingStore'

const { t } = useI18n()
const styling = useStyling()
const project = useProject()
const { choices, place, speak } = useChoices()

const list = ref<HTMLElement | null>(null)
const which = computed(() => styling.chooser!)
const shown = computed<Choice[]>(() => choices.value[which.value])
const at = ref(0)
const about = computed(() =>
  styling.ofWords ? t('styling.ofWords') : t('styling.ofCaptions', { n: styling.styled.length }, styling.styled.length),
)
const x = ref('50')
const y = ref('90')
const colour = ref('#ffcc66')
const name = ref('')

watch(
  which,
  async () => {
    at.value = Math.max(shown.value.findIndex((choice) => choice.on), 0)
    const own = styling.styled[0]?.placement
    if (own?.x != null) x.value = String(Math.round(own.x * 1000) / 10)
    if (own?.y != null) y.value = String(Math.round(own.y * 1000) / 10)
    await nextTick()
    list.value?.focus()
  },
  { immediate: true },
)

async function take(choice: Choice | undefined) {
  if (!choice) return
  await choice.take()
  styling.close()
}

const across = computed(() => (which.value === 'place' ? 3 : 1))

function pressed(event: KeyboardEvent) {
  if (event.ctrlKey || event.altKey || event.metaKey) return
  const moves: Record<string, number> = { ArrowDown: across.value, ArrowUp: -across.value, ArrowRight: 1, ArrowLeft: -1 }
  const digit = shown.value.find((choice) => choice.digit === event.key)
  if (event.key in moves) at.value = Math.min(Math.max(at.value + moves[event.key]!, 0), shown.value.length - 1)
  else if (event.key === 'Enter' || event.key === ' ') void take(shown.value[at.value])
  else if (digit) void take(digit)
  else return
  event.preventDefault()
  event.stopPropagation()
}

const part = (text: string) => Math.min(Math.max(Number(text.replace(',', '.')) / 100, 0), 1)

async function putAt() {
  if (![x.value, y.value].every((text) => Number.isFinite(part(text)))) return
  await place({ x: part(x.value), y: part(y.value) })
  styling.close()
}

async function otherColour() {
  await styling.style({ colour: colour.value.toUpperCase() })
  styling.close()
}

async function somebody() {
  const wanted = name.value.trim()
  if (!wanted) return
  await speak(wanted)
  const known = project.project?.speakers ?? []
  if (!known.some((one) => one.name === wanted)) {
    await project.changeSpeakers([...known, { name: wanted, colour: '#3f6b78' }])
  }
  styling.close()
}
</script>

<template>
  <section class="choose" :aria-label="t(`styling.title.${which}`)" data-chooser @keydown.esc.stop.prevent="styling.close()">
    <PanelHead class="head" :title="t(`styling.title.${which}`)" :about="about" @close="styling.close()" />
    <ul
      ref="list"
      role="listbox"
      tabindex="0"
      :class="which"
      :aria-label="t(`styling.title.${which}`)"
      :aria-activedescendant="`choice-${at}`"
      @keydown="pressed"
    >
      <li
        v-for="(choice, index) in shown"
        :id="`choice-${index}`"
        :key="choice.name"
        role="option"
        :aria-selected="index === at"
        :class="{ at: index === at, on: choice.on }"
        :data-choice="choice.digit"
        @click="take(choice)"
      >
        <kbd v-if="choice.digit">{{ choice.digit }}</kbd>
        <i v-if="choice.colour" class="swatch" :style="{ background: choice.colour }" />
        <span>{{ choice.name }}</span>
        <b v-if="choice.on" :title="t('styling.now')">✓</b>
      </li>
    </ul>
    <form v-if="which === 'place'" class="more" @submit.prevent="putAt">
      <label>{{ t('styling.x') }} <input v-model="x" class="field time" inputmode="decimal" data-place-x /> %</label>
      <label>{{ t('styling.y') }} <input v-model="y" class="field time" inputmode="decimal" data-place-y /> %</label>
      <v-btn size="small" type="submit">{{ t('styling.putAt') }}</v-btn>
    </form>
    <form v-else-if="which === 'colour'" class="more" @submit.prevent="otherColour">
      <label>{{ t('styling.other') }} <input v-model="colour" type="color" /></label>
      <v-btn size="small" type="submit">{{ t('styling.takeColour') }}</v-btn>
    </form>
    <form v-else-if="which === 'speaker'" class="more" @submit.prevent="somebody">
      <label>{{ t('styling.newSpeaker') }} <input v-model="name" class="field" data-new-speaker /></label>
      <v-btn size="small" type="submit">{{ t('styling.takeSpeaker') }}</v-btn>
    </form>
  </section>
</template>

<style scoped>
.choose {
  padding: 10px 16px 14px;
  border-bottom: 1px solid var(--line);
}
.head {
  margin-bottom: 6px;
}
ul {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 2px 10px;
  margin: 0;
  padding: 0;
  list-style: none;
  border-radius: 6px;
}
ul.place {
  grid-template-columns: repeat(3, 1fr);
}
ul.place li:last-child {
  grid-column: 1 / -1;
}
li {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 4px 8px;
  border-radius: 4px;
  cursor: default;
}
li.at {
  background: var(--russet-wash);
}
li b {
  margin-left: auto;
  color: var(--reed);
}
.swatch {
  width: 14px;
  height: 14px;
  border: 1px solid var(--soft);
  border-radius: 3px;
}
.more {
  display: flex;
  align-items: center;
  gap: 12px;
  margin-top: 10px;
  font-size: 13px;
}
.more input:not([type='color']) {
  width: 60px;
}
.more input[data-new-speaker] {
  width: 140px;
}
</style>
