<script setup lang="ts">
/** The moments at which a caption is set apart: gone to, put and taken out. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

import { run } from '@/kit/commands/commands'
import { titleOf } from '@/kit/commands/titles'
import { seconds } from '@/kit/time'
import { usePlayer } from '@/picture/playerStore'
import { useSelection } from '@/score/selectionStore'
import { useLooks } from '@/stages/style/looksStore'

/** More are told by their count. */
const FEW = 6

const { t } = useI18n()
const looks = useLooks()
const player = usePlayer()
const selection = useSelection()

const moments = computed(() => looks.current?.look.moments ?? [])
const now = computed(() => (selection.current ? looks.momentOf(selection.current) : 0))
const isThere = computed(() => moments.value.some(({ at_ms }) => at_ms === now.value))

const place = (at_ms: number) => selection.current && player.place(selection.current.in_ms + at_ms)
</script>

<template>
  <span class="moments" data-moments>
    <v-btn size="small" class="px-2" :title="titleOf('moment')" data-moment @click="run('moment')">{{ t(isThere ? 'style.moments.remove' : 'style.moments.put') }}</v-btn>
    <template v-if="moments.length <= FEW">
      <button
        v-for="moment in moments" :key="moment.at_ms" type="button" class="time" :class="{ on: moment.at_ms === now }"
        :aria-current="moment.at_ms === now" :title="t('style.moments.go')" :data-moment-at="moment.at_ms" @click="place(moment.at_ms)"
      >{{ seconds(moment.at_ms) }}</button>
    </template>
    <span v-else class="soft">{{ t('style.moments.count', moments.length) }}</span>
  </span>
</template>

<style scoped>
.moments {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 3px 6px;
}
.time {
  padding: 1px 4px;
  font-size: 12px;
  border-bottom: 2px solid var(--straw);
}
.time.on {
  border-color: var(--russet);
}
</style>
