<script setup lang="ts">
/** Emoji for the word that the cursor is on: offered by its words, or found by name; where it stands, and how it moves. */
import { watchDebounced } from '@vueuse/core'
import { computed, nextTick, ref, shallowRef } from 'vue'
import { useI18n } from 'vue-i18n'

import { answered, client, type Schemas } from '@/api/client'
import ChoiceRow from '@/kit/ChoiceRow.vue'
import { pieces } from '@/kit/emoji'
import { useCommands } from '@/kit/commands/commands'
import KeyCap from '@/kit/commands/KeyCap.vue'
import { usePlayer } from '@/picture/playerStore'
import { useProject } from '@/session/projectStore'
import { useShort } from '@/stages/style/short/shortStore'
import { useWordCursor } from '@/stages/style/short/wordCursor'

const { t } = useI18n()
const project = useProject()
const player = usePlayer()
const short = useShort()
const cursor = useWordCursor()
const text = ref('')
const input = ref<HTMLInputElement | null>(null)
const found = shallowRef<readonly Schemas['EmojiView'][]>([])
const at = ref(0)
const picture = (emoji: string) => pieces(emoji)[0]?.picture ?? ''

const here = computed(() => cursor.word)
const offered = computed(() => short.state?.offered ?? [])
const language = computed(() => project.trackInfo?.language ?? 'en')

async function look() {
  at.value = 0
  found.value = text.value.trim() ? await answered(client.GET('/api/emoji', { params: { query: { text: text.value, language: language.value } } })).catch(() => []) : []
}
watchDebounced(text, look, { debounce: 80 })
const known = () => ({ emoji_place: here.value?.emojiPlace ?? null, emoji_motion: here.value?.emojiMotion ?? ('pop' as const) })

async function put(emoji: string | null) {
  await cursor.deed('set', emoji === null ? { emoji: null } : { emoji, ...known() })
  text.value = ''
  input.value?.blur()
}
function takeOffered() {
  const own = offered.value.find(({ caption, offset }) => caption === here.value?.caption && offset === here.value?.offset)
  const next = own ?? offered.value[0]
  if (!next) return
  cursor.put(cursor.words.findIndex(({ caption, offset }) => caption === next.caption && offset === next.offset))
  void put(next.emoji)
}
const PLACES = ['above', 'beside', 'line', 'caption'] as const
const MOTIONS = ['still', 'pop', 'sway', 'turn'] as const
const place = computed({
  get: () => (here.value?.emojiPlace ?? 'above') as (typeof PLACES)[number],
  set: (now) => void (now === 'line' ? cursor.deed('in-line') : cursor.deed('set', { emoji_place: now })),
})
const motion = computed({
  get: () => here.value?.emojiMotion ?? 'still',
  set: (now) => void cursor.deed('set', { emoji_motion: now === 'still' ? null : now }),
})
const places = computed(() => PLACES.map((value) => ({ value, title: t(`short.emoji.place.${value}`) })))
const motions = computed(() => MOTIONS.map((value) => ({ value, title: t(`short.emoji.motion.${value}`) })))

const any = () => here.value !== undefined && !player.playing
useCommands([
  {
    id: 'word-emoji',
    run: async () => {
      await nextTick()
      input.value?.focus()
    },
    enabled: any,
    why: 'words',
  },
  { id: 'word-emoji-offered', run: takeOffered, enabled: () => !player.playing && offered.value.length > 0, why: 'words' },
])
</script>

<template>
  <section class="emoji" :aria-label="t('short.emoji.title')">
    <div class="row">
      <span>{{ t('short.emoji.title') }} <KeyCap command="word-emoji" /></span>
      <input
        ref="input"
        v-model="text"
        :placeholder="here ? t('short.emoji.for', { word: here.text }) : ''"
        :aria-label="t('short.emoji.search')"
        :disabled="!here"
        data-emoji-search
        @keydown.right.prevent="at = Math.min(at + 1, found.length - 1)"
        @keydown.left.prevent="at = Math.max(at - 1, 0)"
        @keydown.enter.prevent="found[at] && put(found[at]!.emoji)"
        @keydown.esc="text = ''"
      />
      <button v-if="here?.emoji" type="button" class="link" data-emoji-off @click="put(null)">{{ t('short.emoji.off', { emoji: here.emoji }) }}</button>
    </div>
    <div v-if="found.length" class="found" role="listbox" :aria-label="t('short.emoji.search')">
      <button v-for="(one, n) in found.slice(0, 24)" :key="one.emoji" type="button" role="option" :aria-selected="n === at" :class="{ at: n === at }" :title="one.name" :data-emoji="one.emoji" @click="put(one.emoji)">
        <img :src="picture(one.emoji)" :alt="one.name" />
      </button>
    </div>
    <p v-else-if="text.trim()" class="soft">{{ t('short.emoji.none') }}</p>
    <div v-if="here?.emoji" class="row">
      <ChoiceRow v-model="place" :label="t('short.emoji.placeLabel')" :options="places" />
      <ChoiceRow v-model="motion" :label="t('short.emoji.motionLabel')" :options="motions" />
    </div>
    <p v-if="offered.length" class="offered" data-offered>
      {{ t('short.emoji.offered', offered.length) }} <KeyCap command="word-emoji-offered" />
      <button v-for="one in offered.slice(0, 6)" :key="one.caption + one.offset" type="button" :title="one.text" @click="cursor.put(cursor.words.findIndex(({ caption, offset }) => caption === one.caption && offset === one.offset)); put(one.emoji)">
        <img :src="picture(one.emoji)" :alt="one.text" /> {{ one.text }}
      </button>
    </p>
  </section>
</template>

<style scoped>
.emoji {
  display: grid;
  gap: 6px;
  padding: 8px 12px;
  font-size: 13px;
  background: var(--paper);
  border-top: 1px solid var(--line);
}
.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 14px;
}
.row > span {
  color: var(--soft);
}
.row > input {
  flex: 1;
  min-width: 120px;
  padding: 3px 6px;
  background: var(--sand);
  border: 1px solid var(--line);
  border-radius: 4px;
}
.found {
  display: flex;
  flex-wrap: wrap;
  gap: 2px;
}
.found button {
  padding: 3px;
  border-radius: 4px;
}
.found button.at {
  outline: 2px solid var(--russet);
}
img {
  width: 22px;
  height: 22px;
  vertical-align: middle;
}
.offered {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 10px;
  margin: 0;
  color: var(--soft);
}
.offered img {
  width: 17px;
  height: 17px;
}
</style>
