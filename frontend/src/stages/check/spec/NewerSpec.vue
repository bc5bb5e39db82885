<script setup lang="ts">
/** Says that the spec a project took has a newer version, and takes that when asked. */
import { computed, ref } from 'vue'
import { useI18n } from 'vue-i18n'

import NoticeLine from '@/kit/NoticeLine.vue'
import { useProject } from '@/session/projectStore'
import { useTrack } from '@/session/tracksStore'

const { t } = useI18n()
const project = useProject()
const track = useTrack()
const problem = ref('')

const older = computed(() => (project.specIsOlder ? track.spec : null))

async function take() {
  problem.value = ''
  try {
    await project.takeSpec(older.value!.id)
  } catch (refused) {
    problem.value = (refused as Error).message
  }
}
</script>

<template>
  <NoticeLine v-if="older" :text="t('spec.newer', { name: older.name })" :problem="problem" data-newer-spec>
    <v-btn size="small" color="primary" variant="flat" data-take-spec @click="take">{{ t('spec.takeNewer') }}</v-btn>
  </NoticeLine>
</template>
