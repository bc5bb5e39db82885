<script setup lang="ts">
/** What was translated before that is like this source, with what differs marked; taken by key or press. */
import { diffWordsWithSpace } from 'diff'
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

import KeyCap from '@/kit/commands/KeyCap.vue'
import PartHead from '@/kit/PartHead.vue'
import type { useSuggestions } from '@/stages/translate/useSuggestions'

const { suggestions } = defineProps<{ suggestions: ReturnType<typeof useSuggestions> }>()
const { t, locale } = useI18n()
const month = new Intl.DateTimeFormat(locale.value, { month: 'long', year: 'numeric' })

const shown = computed(() =>
  suggestions.remembered.value.map((one) => ({
    ...one,
    percent: Math.floor(one.alike * 100),
    changes: one.alike < 1 ? diffWordsWithSpace(one.source, suggestions.source.value) : [],
    from: [one.origin, one.when_ms ? month.format(one.when_ms) : ''].filter(Boolean).join(', '),
  })),
)
</script>

<template>
  <section v-if="shown.length" class="remembered" :aria-label="t('translate.remembered')">
    <PartHead :title="t('translate.remembered')"><KeyCap command="remembered-take" /> {{ t('translate.takes') }}</PartHead>
    <button
      v-for="(one, index) in shown" :key="index" type="button" class="one" :class="{ on: index === suggestions.at.value }" :data-remembered="one.percent"
      @click="suggestions.take(index)"
    >
      <b class="time">{{ one.percent }} %</b>
      <span>{{ one.target }}</span>
      <small v-if="one.changes.length" class="soft">
        <template v-for="(part, n) in one.changes" :key="n"><ins v-if="part.added">{{ part.value }}</ins><del v-else-if="part.removed">{{ part.value }}</del><template v-else>{{ part.value }}</template></template>
      </small>
      <small v-if="one.from" class="soft">{{ t('translate.from', { origin: one.from }) }}</small>
    </button>
    <p v-if="shown.length > 1" class="soft"><KeyCap command="remembered-next" /> <KeyCap command="remembered-before" /> {{ t('translate.others') }}</p>
  </section>
</template>

<style scoped>
.remembered {
  display: grid;
  gap: 6px;
  padding-top: 10px;
  border-top: 1px solid var(--line);
}
.one {
  display: grid;
  grid-template-columns: 46px 1fr;
  gap: 2px 6px;
  padding: 6px 10px;
  text-align: left;
  border: 1px solid var(--line);
  border-radius: 6px;
}
.one.on {
  border-color: var(--tide);
  box-shadow: inset 3px 0 0 var(--tide);
}
.one b {
  color: var(--tide);
}
.one small {
  grid-column: 2;
  font-size: 12px;
}
ins {
  text-decoration: none;
  background: color-mix(in srgb, var(--reed) 22%, transparent);
}
del {
  color: var(--heather);
}
p {
  margin: 0;
}
</style>
