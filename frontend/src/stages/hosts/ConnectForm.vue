<script setup lang="ts">
/** Connects with a host: where it is, and the token that was made there. */
import { onMounted, ref } from 'vue'
import { useI18n } from 'vue-i18n'

import { useHosts } from '@/session/hostsStore'

const emit = defineEmits<{ connected: [id: string] }>()
const { t } = useI18n()
const hosts = useHosts()
const address = ref('')
const token = ref('')
const problem = ref('')
const busy = ref(false)
const first = ref<HTMLInputElement | null>(null)
onMounted(() => first.value?.focus())

async function connect() {
  problem.value = ''
  busy.value = true
  try {
    const { id } = await hosts.connect(address.value, token.value)
    address.value = token.value = ''
    emit('connected', id)
  } catch (refused) {
    problem.value = (refused as Error).message
  }
  busy.value = false
}
</script>

<template>
  <form class="connect" data-connect @submit.prevent="connect">
    <label class="dial"><span>{{ t('hosts.address') }}</span><input ref="first" v-model="address" type="text" required maxlength="500" placeholder="http://127.0.0.1:8602" spellcheck="false" autocomplete="off" data-address></label>
    <label class="dial"><span>{{ t('hosts.token') }}</span><input v-model="token" type="password" required maxlength="500" autocomplete="off" data-token></label>
    <p class="soft">{{ t('hosts.tokenAbout') }}</p>
    <p v-if="problem" class="problem" role="alert" data-connect-problem>{{ problem }}</p>
    <v-btn type="submit" color="primary" variant="flat" :disabled="busy" data-connect-now>{{ t('hosts.connect') }}</v-btn>
  </form>
</template>

<style scoped>
.connect {
  display: grid;
  gap: 8px;
  justify-items: start;
  max-width: 520px;
}
.dial {
  width: 100%;
}
p {
  margin: 0;
}
.problem {
  color: var(--heather);
}
</style>
