<script setup lang="ts">
/** A question about what is said, answered by the passages that say it. */
import { nextTick, ref, shallowRef } from 'vue'
import { useI18n } from 'vue-i18n'

import type { Schemas } from '@/api/client'
import KeyCap from '@/kit/commands/KeyCap.vue'
import { minutes } from '@/kit/time'
import { usePlayer } from '@/picture/playerStore'
import { useAbout } from '@/session/aboutStore'

const { t } = useI18n()
const about = useAbout()
const player = usePlayer()
const question = ref('')
const answers = shallowRef<Schemas['AnswerView'][] | null>(null)
const problem = ref('')
const field = ref<HTMLInputElement | null>(null)
const list = ref<HTMLElement | null>(null)
defineExpose({ focus: () => field.value?.focus() })

async function ask() {
  if (!question.value.trim()) return
  problem.value = ''
  try {
    answers.value = await about.answers(question.value.trim())
    await nextTick()
    list.value?.querySelector<HTMLElement>('button')?.focus()
  } catch (refused) {
    problem.value = (refused as Error).message
  }
}
/** The arrows go from one to the next. */
function step(event: KeyboardEvent, by: number) {
  const buttons = [...(list.value?.querySelectorAll<HTMLElement>('button') ?? [])]
  const at = buttons.indexOf(event.target as HTMLElement)
  buttons[Math.min(Math.max(at + by, 0), buttons.length - 1)]?.focus()
}
</script>

<template>
  <section class="ask" :aria-label="t('aboutFilm.ask')" data-ask-film>
    <label for="question"><b>{{ t('aboutFilm.ask') }}</b> <KeyCap command="film-ask" /></label>
    <input id="question" ref="field" v-model="question" class="field" type="text" maxlength="500" :placeholder="t('aboutFilm.askHint')" data-question @keydown.enter.prevent="ask">
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <p v-else-if="answers && !answers.length" class="soft">{{ t('aboutFilm.noAnswer') }}</p>
    <ul v-else-if="answers" ref="list" @keydown.down.prevent.stop="step($event, 1)" @keydown.up.prevent.stop="step($event, -1)">
      <li v-for="one in answers" :key="one.from_ms">
        <button type="button" data-answer @click="player.hear(one.from_ms, one.to_ms)"><span class="time soft">{{ minutes(one.from_ms) }}</span> <span dir="auto">{{ one.text }}</span></button>
      </li>
    </ul>
    <p v-else class="soft">{{ about.view?.service ? t('aboutFilm.askService', { service: about.view.service }) : t('aboutFilm.askAbout') }}</p>
  </section>
</template>

<style scoped>
.ask {
  display: grid;
  gap: 8px;
  padding: 12px 16px 14px;
  font-size: 13.5px;
}
p {
  margin: 0;
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
li button {
  display: grid;
  grid-template-columns: 52px minmax(0, 1fr);
  gap: 8px;
  width: 100%;
  padding: 5px 4px;
  text-align: left;
  border-top: 1px solid var(--line);
}
li button:is(:hover, :focus-visible) {
  background: var(--sand);
}
.problem {
  color: var(--heather);
}
</style>
