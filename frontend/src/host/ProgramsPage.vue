<script setup lang="ts">
/** Programs that may come in, by tokens; and the faults that they are to meet when they are tried out. */
import { onMounted, ref, shallowRef } from 'vue'
import { useI18n } from 'vue-i18n'

import { ask, type Faults, type Token, when } from '@/host/ask'

const SCOPES = ['films:read', 'films:write', 'captions:write'] as const
const REFUSALS = [0, 401, 403, 429, 500, 503] as const
const NONE: Faults = { slow_ms: 0, refuse: 0, times: null, break_after: null, lie_about_size: false, redirect_to: null, answer: null }

const { t } = useI18n()
const tokens = shallowRef<Token[]>([])
const name = ref('Dunlin')
const scopes = ref<string[]>([...SCOPES])
const days = ref(30)
const made = ref('')
const faults = ref<Faults>({ ...NONE })
const problem = ref('')

async function tried(deed: () => Promise<unknown>) {
  try {
    await deed()
    problem.value = ''
  } catch (error) {
    problem.value = error instanceof TypeError ? t('gone') : (error as Error).message
  }
}
const read = () => tried(async () => (tokens.value = await ask<Token[]>('GET', 'tokens')))
onMounted(async () => {
  document.title = `${t('programs')} · ${t('name')}`
  await read()
  await tried(async () => (faults.value = await ask<Faults>('GET', 'faults')))
})
const make = () =>
  tried(async () => {
    made.value = (await ask<{ token: string }>('POST', 'tokens', { name: name.value, scopes: scopes.value, days: days.value })).token
    await read()
  })
const revoke = (token: Token) =>
  tried(async () => {
    await ask('DELETE', `tokens/${token.id}`)
    await read()
  })
const set = (wanted: Faults) => tried(async () => (faults.value = await ask<Faults>('PUT', 'faults', wanted)))
const isOn = () => JSON.stringify(faults.value) !== JSON.stringify(NONE)
</script>

<template>
  <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
  <section>
    <h1>{{ t('token.title') }}</h1>
    <p class="soft">{{ t('token.body') }}</p>
    <form data-token-form @submit.prevent="make">
      <label>{{ t('token.name') }} <input v-model="name" type="text" maxlength="200" required></label>
      <label>{{ t('token.days') }} <input v-model.number="days" type="number" min="1" max="366" required></label>
      <label v-for="scope in SCOPES" :key="scope"><input v-model="scopes" type="checkbox" :value="scope"> {{ t(`token.scope.${scope}`) }}</label>
      <button type="submit" :disabled="!scopes.length">{{ t('token.make') }}</button>
    </form>
    <p v-if="made" class="made">{{ t('token.made') }} <output class="figures" data-token>{{ made }}</output></p>
    <p v-if="!tokens.length" class="soft">{{ t('token.none') }}</p>
    <table v-else>
      <tbody>
        <tr v-for="token in tokens" :key="token.id">
          <td>{{ token.name }}</td>
          <td>{{ token.scopes.map((scope) => t(`token.scope.${scope}`)).join(', ') }}</td>
          <td class="figures">{{ token.expires_ms > Date.now() ? t('token.ends', { when: when(token.expires_ms) }) : t('token.ended') }}</td>
          <td><button type="button" @click="revoke(token)">{{ t('token.revoke') }}</button></td>
        </tr>
      </tbody>
    </table>
  </section>
  <section class="faults">
    <h2>{{ t('faults.title') }}</h2>
    <p class="soft">{{ t('faults.body') }}</p>
    <label>{{ t('faults.slow') }} <input v-model.number="faults.slow_ms" type="number" min="0" max="600000"></label>
    <label>{{ t('faults.refuse') }} <select v-model="faults.refuse"><option v-for="status in REFUSALS" :key="status" :value="status">{{ status || t('faults.nothing') }}</option></select></label>
    <label>{{ t('faults.break') }} <input :value="faults.break_after ?? ''" type="number" min="0" @change="faults.break_after = ($event.target as HTMLInputElement).value ? Number(($event.target as HTMLInputElement).value) : null"></label>
    <label>{{ t('faults.redirect') }} <input :value="faults.redirect_to ?? ''" type="text" @change="faults.redirect_to = ($event.target as HTMLInputElement).value || null"></label>
    <label>{{ t('faults.answer') }} <select v-model="faults.answer"><option :value="null">{{ t('faults.nothing') }}</option><option value="markup">{{ t('faults.answers.markup') }}</option><option value="megabytes">{{ t('faults.answers.megabytes') }}</option></select></label>
    <label><input v-model="faults.lie_about_size" type="checkbox"> {{ t('faults.lie') }}</label>
    <p>
      <button type="button" @click="set(faults)">{{ t('faults.set') }}</button>
      <button type="button" @click="set({ ...NONE })">{{ t('faults.off') }}</button>
      <span v-if="isOn()" class="wrong">{{ t('faults.on') }}</span>
    </p>
  </section>
</template>

<style scoped>
form {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 20px;
  align-items: center;
  margin-bottom: 16px;
}
input[type='number'] {
  width: 96px;
}
.made {
  padding: 10px 14px;
  background: #ffe2a8;
}
output {
  overflow-wrap: anywhere;
  white-space: normal;
  user-select: all;
}
section {
  margin-bottom: 40px;
}
.faults {
  display: grid;
  gap: 8px;
  justify-items: start;
}
.faults p {
  display: flex;
  gap: 10px;
  align-items: center;
}
</style>
