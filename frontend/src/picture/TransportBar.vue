<script setup lang="ts">
import { mdiPause, mdiPlay } from '@mdi/js'
import { ref } from 'vue'
import { useI18n } from 'vue-i18n'

import { SPEEDS, usePlayer } from '@/picture/playerStore'
import { useProject } from '@/session/projectStore'
import { useCommands } from '@/kit/commands/commands'
import { titleOf } from '@/kit/commands/titles'
import { clock } from '@/kit/time'
import GoTo from '@/picture/GoTo.vue'

const { t } = useI18n()
const player = usePlayer()
const project = useProject()
const going = ref(false)
useCommands([{ id: 'go-to', run: () => (going.value = true) }])
</script>

<template>
  <div class="transport" role="group" :aria-label="t('player.transport')">
    <v-btn min-width="40" class="px-1" :title="titleOf('frame-back')" @click="player.stepFrames(-1)">−1 f</v-btn>
    <v-btn
      color="primary"
      variant="flat"
      class="play"
      :prepend-icon="player.playing ? mdiPause : mdiPlay"
      :disabled="!project.hasFilm"
      data-play
      @click="player.toggle()"
    >
      {{ player.playing ? t('player.pause') : t('player.play') }}
    </v-btn>
    <v-btn min-width="40" class="px-1" :title="titleOf('frame-on')" @click="player.stepFrames(1)">+1 f</v-btn>
    <v-menu>
      <template #activator="{ props: menu }">
        <v-btn v-bind="menu" min-width="52" class="px-2" :title="`${t('player.speed')} · J L`">{{ player.speed }}×</v-btn>
      </template>
      <v-list density="compact">
        <v-list-item
          v-for="speed in SPEEDS.filter((value) => value > 0)"
          :key="speed"
          :active="speed === player.speed"
          @click="player.setSpeed(speed)"
        >
          {{ speed }}×
        </v-list-item>
      </v-list>
    </v-menu>
    <GoTo v-if="going" class="clock" @done="going = false" />
    <button v-else type="button" class="clock time" data-clock :title="titleOf('go-to')" @click="going = true">{{ clock(player.timeMs) }}</button>
  </div>
</template>

<style scoped>
.transport {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px;
  padding: 8px 14px;
  border-bottom: 1px solid var(--line);
}
.play {
  flex: 0 1 104px;
  min-width: 84px;
}
.clock {
  margin-left: auto;
  font-size: 17px;
  font-weight: 500;
}
@media (max-width: 1150px) {
  .transport {
    padding: 8px 10px;
    gap: 4px;
  }
  .play {
    padding: 0 6px;
  }
  .clock {
    font-size: 14px;
  }
}
</style>
