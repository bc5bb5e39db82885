<script setup lang="ts">
/** One job: what it does, how far it is, how long it still takes, and a way to end it or try again. */
import { computed, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import type { JobView } from '@/api/client'
import { sentence } from '@/kit/i18n'
import { useProject } from '@/session/projectStore'

/** How much of a new estimate is believed at once. */
const NEWS_SHARE = 0.3

const props = defineProps<{
  job: JobView
  /** What it is done of, where that may be one or another. */
  of?: string
}>()
const { t } = useI18n()
const project = useProject()
const asked = ref(false)

const active = computed(() => props.job.state === 'running' || props.job.state === 'waiting')
const left = computed(() => {
  if (props.job.state === 'waiting') return t('job.waiting')
  if (props.job.state !== 'running') return t(`job.${props.job.state}`)
  return smooth.value === null ? t('job.begun') : t('job.left', { time: roughly(smooth.value) })
})

/** How long it still takes, as it was thought to and is thought now: single reports jump. */
const smooth = ref<number | null>(null)
let toldAt = 0
watch(
  () => [props.job.id, props.job.left_ms, props.job.version] as const,
  ([id, now], before) => {
    const at = performance.now()
    const expected = smooth.value === null || before?.[0] !== id ? null : Math.max(smooth.value - (at - toldAt), 0)
    smooth.value = now === null ? null : expected === null ? now : expected + (now - expected) * NEWS_SHARE
    toldAt = at
  },
  { immediate: true },
)

/** In minutes while there are some, then in steps of seconds. */
function roughly(ms: number): string {
  if (ms >= 90_000) return t('job.minutes', { n: Math.round(ms / 60_000) })
  return t('job.seconds', { n: Math.max(Math.ceil(ms / 5000) * 5, 5) })
}

async function cancel() {
  asked.value = true
  await project.askJob(props.job, 'cancel')
}
</script>

<template>
  <div class="job" :data-job="job.kind" :data-state="job.state">
    <div class="head">
      <b>{{ t(`job.kind.${job.kind}`) }}<template v-if="of">: {{ of }}</template></b>
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
