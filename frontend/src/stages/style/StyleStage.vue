<script setup lang="ts">
/** How captions look: on the picture, one by one, or in short form, all in one look and told word by word. */
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { keysWaitFor, useCommands } from '@/kit/commands/commands'
import PicturePage from '@/stages/style/PicturePage.vue'
import ShortPage from '@/stages/style/short/ShortPage.vue'

const route = useRoute()
const router = useRouter()
const isShort = computed(() => route.query.view === 'short')

useCommands([{ id: 'style-view', run: () => void keysWaitFor(router.replace({ query: isShort.value ? {} : { view: 'short' } })) }])
</script>

<template>
  <ShortPage v-if="isShort" />
  <PicturePage v-else />
</template>
