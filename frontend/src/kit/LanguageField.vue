<script setup lang="ts">
/** A language, written by its name or its tag (BCP 47). */
import { computed, ref, watch } from 'vue'

import { languageName } from '@/kit/i18n'
import { tagOfLanguage, WRITTEN_OFTEN } from '@/kit/languages'

/** The tag; nothing while what is written is none. */
const tag = defineModel<string>({ required: true })
defineProps<{ label?: string; placeholder?: string }>()

const text = ref(tag.value && languageName(tag.value))
watch(text, (written) => (tag.value = tagOfLanguage(written)))
const names = computed(() => WRITTEN_OFTEN.map((one) => ({ tag: one, name: languageName(one) })).sort((a, b) => a.name.localeCompare(b.name)))
const input = ref<HTMLInputElement | null>(null)
defineExpose({ focus: () => input.value?.focus() })
</script>

<template>
  <input ref="input" v-model="text" class="field" list="language-names" autocomplete="off" :aria-label="label" :placeholder="placeholder" data-language />
  <span class="soft">{{ tag && text.trim().toLowerCase() !== languageName(tag).toLowerCase() ? languageName(tag) : tag }}</span>
  <datalist id="language-names">
    <option v-for="one in names" :key="one.tag" :value="one.name" />
  </datalist>
</template>

<style scoped>
input {
  width: 180px;
}
</style>
