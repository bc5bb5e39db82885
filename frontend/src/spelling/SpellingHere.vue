<script setup lang="ts">
/** The words of the caption that is worked on that no dictionary knows, with what may have been meant. */
import { useI18n } from 'vue-i18n'

import KeyCap from '@/kit/commands/KeyCap.vue'
import PartHead from '@/kit/PartHead.vue'
import { useSpelling } from '@/spelling/useSpelling'

const { t } = useI18n()
const { unknown, take, accept, isOn } = useSpelling()
</script>

<template>
  <section v-if="unknown.length" class="spelling" :aria-label="t('spelling.title')">
    <PartHead :title="t('spelling.title')"><KeyCap command="spelling-take" /> {{ t('spelling.takes') }} · <KeyCap command="spelling-next" /> {{ t('spelling.next') }}</PartHead>
    <p v-for="word in unknown" :key="`${word.start} ${word.word}`" :data-unknown="word.word">
      <b>{{ word.word }}</b>
      <button v-for="suggestion in word.suggestions" :key="suggestion" type="button" class="suggestion" :class="{ on: isOn(word, suggestion) }" @click="take({ word, suggestion })">{{ suggestion }}</button>
      <span v-if="!word.suggestions.length" class="soft">{{ t('spelling.none') }}</span>
    </p>
    <p class="soft">
      <KeyCap command="spelling-accept" /> {{ t('spelling.accepts') }}
      <button type="button" class="link" data-accept-for-all @click="accept(undefined, 'house')">{{ t('spelling.forAll') }}</button>
    </p>
  </section>
</template>

<style scoped>
.spelling {
  display: grid;
  gap: 6px;
  padding-top: 10px;
  border-top: 1px solid var(--line);
  font-size: 13px;
}
p {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px 12px;
  margin: 0;
}
b {
  font-weight: 600;
  text-decoration: underline dotted 2px var(--straw);
  text-underline-offset: 3px;
}
.suggestion {
  border-bottom: 2px solid transparent;
}
.suggestion.on {
  border-bottom-color: var(--tide);
}
.link {
  color: var(--tide);
  text-decoration: underline;
}
</style>
