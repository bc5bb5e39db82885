<script setup lang="ts">
/** One job: what it does, how far it is, how long it still takes, and a way to end it or try again. */
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'

import type { JobView } from '@/api/client'
import { sentence } from '@/kit/i18n'
import { useProject } from '@/session/projectStore'
import { minutes } from '@/kit/time'

const props = defineProps<{ job: JobView }>()
const { t } = useI18n()
const project = useProject()
const asked = ref(false)

const active = computed(() => props.job.state === 'running' || props.job.state === 'waiting')
const left = computed(() => {
  if (props.job.state === 'waiting') return t('job.waiting')
  if (props.job.state !== 'running') return t(`job.${props.job.state}`)
  return props.job.left_ms === null ? t('job.begun') : t('job.left', { time: minutes(props.job.left_ms + 500) })
})

async function cancel() {
  asked.value = true
  await project.askJob(props.job, 'cancel')
}
</script>

<template>
  <div class="job" :data-job="job.kind" :data-state="job.state">
    <div class="head">
      <b>{{ t(`job.kind.${job.kind}`) }}</b>
      <span class="soft">
        <template v-if="job.state === 'running'">{{ Math.round(job.progress * 100) }} % · </template>{{ left }}
      </span>
    </div>
    <v-progress-linear
      v-if="active"
      :model-value="job.progress * 100"
      :indeterminate="job.state === 'running' && job.progress === 0"
      :aria-label="t(`job.kind.${job.kind}`)"
    />
    <p v-if="job.error" class="error">{{ sentence(job.error) }}</p>
    <div v-if="active || job.state === 'failed' || job.state === 'cancelled' || $slots.default" class="acts">
      <v-btn v-if="active" size="small" :disabled="asked" @click="cancel">
        {{ asked ? t('job.cancelling') : t('job.cancel') }}
      </v-btn>
      <v-btn v-if="job.state === 'failed' || job.state === 'cancelled'" size="small" @click="project.askJob(job, 'retry')">
        {{ t('job.retry') }}
      </v-btn>
      <slot />
    </div>
  </div>
</template>

<style scoped>
.job {
  display: grid;
  gap: 6px;
}
.job + .job {
  margin-top: 12px;
}
.head {
  display: flex;
  justify-content: space-between;
  gap: 10px;
}
.error {
  margin: 0;
  color: var(--heather);
}
.acts {
  display: flex;
  gap: 8px;
}
</style>
