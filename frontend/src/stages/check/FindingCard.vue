<script setup lang="ts">
/** One finding: the caption as it is, what it measures, and beside it what it would be. */
import { computed, nextTick, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import type { Finding, Schemas } from '@/api/client'
import { inWords } from '@/kit/i18n'
import { findingText } from '@/kit/findings'
import { shortClock } from '@/kit/time'
import { useMends } from '@/stages/check/mendStore'

const props = defineProps<{ finding: Finding; number: number; text: string; current: boolean; waiving: boolean }>()
const emit = defineEmits<{ show: []; go: []; waive: [reason: string]; leave: [] }>()

const { t } = useI18n()
const mends = useMends()
const reason = ref('')
const field = ref<HTMLInputElement | null>(null)

const mend = computed(() => mends.of(props.finding))
type Shape = Schemas['ShapeView']
const before = computed<Shape[]>(() => mend.value?.before ?? [])
const old = (shape: Shape) => before.value.find((other) => other.id === shape.id)

watch(
  () => props.waiving,
  async (on) => {
    if (!on) return
    reason.value = props.finding.waived ?? ''
    await nextTick()
    field.value?.focus()
  },
)

const figures = (shape: Shape) =>
  [
    t('meter.cps', { value: shape.measures.reading_speed.toFixed(1) }),
    t('check.length', { value: shape.measures.longest_line }),
    t('check.seconds', { value: (shape.measures.duration_ms / 1000).toFixed(2) }),
  ].join(' · ')
</script>

<template>
  <li
    class="place"
    :class="{ on: current, advice: finding.weight === 'advice', waived: finding.waived }"
    :aria-current="current ? 'true' : undefined"
    tabindex="0"
    data-place
    @focus="emit('show')"
    @click="emit('show')"
    @dblclick="emit('go')"
  >
    <input
      type="checkbox"
      class="choose"
      :checked="mends.isChosen(finding)"
      :disabled="!mend || mend.reason !== null || Boolean(finding.waived)"
      :aria-label="t('check.choose', { number })"
      @click.stop
      @change="mends.choose(finding, ($event.target as HTMLInputElement).checked)"
    >
    <div class="now">
      <p class="said">{{ text || t('score.empty') }}</p>
      <p class="told">
        <svg viewBox="0 0 12 12" aria-hidden="true"><path v-if="finding.weight === 'error'" d="M6 0l6 6-6 6-6-6z" /><circle v-else cx="6" cy="6" r="4.300" /></svg>
        {{ findingText(t, finding) }}
      </p>
      <p class="when time">{{ number }} · {{ shortClock(finding.in_ms) }} – {{ shortClock(finding.out_ms) }}</p>
    </div>
    <div class="then">
      <p v-if="finding.waived" class="reason">{{ t('check.waived', { reason: finding.waived }) }}</p>
      <p v-else-if="!mend" class="reason">{{ mends.looking ? t('check.looking') : '' }}</p>
      <p v-else-if="mend.reason !== null" class="reason">{{ t('check.noMend', { reason: inWords(mend.reason) }) }}</p>
      <p v-else-if="!mend.after.length" class="change">{{ t('check.takenAway') }}</p>
      <template v-else>
        <div v-for="shape in mend.after" :key="shape.id" class="after">
          <p class="said" :class="{ same: old(shape)?.text === shape.text }">{{ shape.text }}</p>
          <p class="change time">
            <span v-if="old(shape)?.in_ms !== shape.in_ms">{{ t('score.in') }} <mark>{{ shortClock(shape.in_ms) }}</mark></span>
            <span v-if="old(shape)?.out_ms !== shape.out_ms">{{ t('score.out') }} <mark>{{ shortClock(shape.out_ms) }}</mark></span>
            <span>{{ figures(shape) }}</span>
          </p>
        </div>
      </template>
    </div>
    <form v-if="waiving" class="waiver" @submit.prevent="emit('waive', reason)" @click.stop>
      <input ref="field" v-model="reason" maxlength="500" :placeholder="t('check.waiveReason')" :aria-label="t('check.waiveReason')" @keydown.esc.stop="emit('leave')">
      <v-btn size="small" color="primary" type="submit" :disabled="!reason.trim()">{{ t('check.waiveNow') }}</v-btn>
    </form>
  </li>
</template>

<style scoped>
.place {
  display: grid;
  grid-template-columns: 18px minmax(0, 1fr) minmax(0, 1fr);
  gap: 4px 12px;
  padding: 10px 12px;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 6px;
  cursor: default;
}
.place.on {
  border-color: var(--russet);
  box-shadow: inset 3px 0 0 var(--russet);
}
.choose {
  width: 16px;
  height: 16px;
  margin-top: 2px;
}
p {
  margin: 0;
}
.said {
  white-space: pre-wrap;
  overflow-wrap: anywhere;
}
.said.same {
  color: var(--soft);
}
.told {
  display: flex;
  align-items: baseline;
  gap: 6px;
  margin-top: 3px;
  color: var(--heather);
  font-size: 13px;
}
.told svg {
  flex: none;
  width: 10px;
  height: 10px;
  fill: currentColor;
}
.advice .told {
  color: var(--straw);
}
.advice .told svg {
  fill: none;
  stroke: currentColor;
  stroke-width: 2.200;
}
.waived .told {
  color: var(--soft);
}
.when {
  margin-top: 2px;
  font-size: 12px;
  color: var(--soft);
}
.then {
  padding-left: 12px;
  border-left: 1px dashed var(--line);
}
.after + .after {
  margin-top: 6px;
}
.change {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 10px;
  margin-top: 3px;
  color: var(--reed);
  font-size: 12px;
}
mark {
  padding: 0 3px;
  color: inherit;
  background: color-mix(in srgb, var(--reed) 18%, transparent);
  border-radius: 3px;
}
.reason {
  color: var(--soft);
  font-size: 13px;
}
.waiver {
  grid-column: 2 / 4;
  display: flex;
  gap: 8px;
  margin-top: 6px;
}
.waiver input {
  flex: 1;
  padding: 4px 10px;
  font: inherit;
  color: var(--ink);
  background: var(--sand);
  border: 1px solid var(--line);
  border-radius: 6px;
}
</style>
