<script setup lang="ts">
/** One field for every command and every caption. */
import { computed, nextTick, ref, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import { usePlayer } from '@/picture/playerStore'
import { textOf } from '@/session/captions'
import { useTrack } from '@/session/tracksStore'
import { useSelection } from '@/score/selectionStore'
import { type CommandId, DECLARED } from '@/kit/commands/catalogue'
import { commandOf, isPossible, run, useCommands } from '@/kit/commands/commands'
import { printed } from '@/kit/commands/keys'
import { shortClock } from '@/kit/time'
import KeyCap from '@/kit/commands/KeyCap.vue'
import { keysOf } from '@/kit/commands/keymap'
import { nameOf } from '@/kit/commands/titles'
import { useChoices } from '@/styling/choices'
import { type Target, useStyling } from '@/styling/stylingStore'

interface Hit {
  key: string
  title: string
  hint: string
  /** It cannot be done now; the hint says why. */
  barred?: boolean
  run: () => void
}

const MOST_CAPTIONS = 8

const { t, te } = useI18n()
const track = useTrack()
const player = usePlayer()
const selection = useSelection()
const styling = useStyling()
const { choices } = useChoices()
/** What would be styled by what is chosen here. */
let target: Target | null = null
const field = ref<HTMLInputElement | null>(null)
const open = ref(false)
const wanted = ref('')
const at = ref(0)

useCommands([
  {
    id: 'search',
    run: () => {
      // What was being written goes on where it was.
      target = styling.current()
      field.value?.focus()
    },
  },
])

const hits = computed<Hit[]>(() => {
  if (!open.value) return []
  const words = wanted.value.toLowerCase().split(/\s+/).filter(Boolean)
  const matches = (text: string) => words.every((word) => text.toLowerCase().includes(word))
  const found: Hit[] = []
  for (const { id } of DECLARED.values()) {
    const title = nameOf(id)
    if (id === 'search' || !matches(`${title} ${also(id)}`)) continue
    const why = whyNot(id)
    // Unasked, only what can be done is told.
    if (why && !words.length) continue
    found.push({ key: id, title, hint: why || hint(id), barred: why !== '', run: () => styling.doneFor(target, () => run(id)) })
  }
  found.sort((a, b) => Number(a.barred ?? false) - Number(b.barred ?? false))
  if (words.length && target) {
    for (const [which, list] of Object.entries(choices.value)) {
      for (const choice of list) {
        const title = t('styling.asCommand', { what: t(`styling.title.${which}`), choice: choice.name })
        if (!matches(`${title} ${also(`choose-${which}`)}`)) continue
        found.push({ key: `${which}-${choice.name}`, title, hint: '', run: () => styling.doneFor(target, choice.take) })
      }
    }
  }
  if (words.length) {
    const captions = track.captions.filter((caption) => matches(textOf(caption))).slice(0, MOST_CAPTIONS)
    for (const caption of captions) {
      found.push({
        key: caption.id,
        title: textOf(caption).replaceAll('\n', ' '),
        hint: shortClock(caption.in_ms),
        run: () => {
          selection.only(caption.id)
          player.place(caption.in_ms)
        },
      })
    }
  }
  return found
})

/** Other words a person may look for a command by. */
const also = (id: string) => (te(`also.${id}`) ? t(`also.${id}`) : '')

const hint = (id: CommandId) => [...keysOf(id).keys, ...keysOf(id).text].slice(0, 2).map(printed).join('  ')

/** What stands against a command now, in words; empty where nothing does. */
function whyNot(id: CommandId): string {
  const command = commandOf(id)
  if (!command) return t('why.elsewhere', { where: t(`keys.area.${DECLARED.get(id)!.area}`) })
  return isPossible(id) ? '' : t(`why.${command.why ?? 'now'}`)
}

watch(wanted, () => (at.value = 0))

function close() {
  open.value = false
  wanted.value = ''
  field.value?.blur()
}

function choose(hit: Hit | undefined) {
  if (hit?.barred) return
  close()
  if (hit) void nextTick(hit.run)
}

function pressed(event: KeyboardEvent) {
  if (event.key === 'ArrowDown') at.value = Math.min(at.value + 1, hits.value.length - 1)
  else if (event.key === 'ArrowUp') at.value = Math.max(at.value - 1, 0)
  else if (event.key === 'Enter') choose(hits.value[at.value])
  else if (event.key === 'Escape') close()
  else return
  event.preventDefault()
  event.stopPropagation()
  void nextTick(() => document.querySelector('.hit.on')?.scrollIntoView({ block: 'nearest' }))
}
</script>

<template>
  <div class="search">
    <input
      ref="field"
      v-model="wanted"
      type="text"
      role="combobox"
      aria-controls="search-hits"
      :aria-expanded="open"
      :aria-activedescendant="hits[at] ? `hit-${hits[at]!.key}` : undefined"
      :aria-label="t('top.search')"
      :placeholder="t('top.search')"
      autocomplete="off"
      dir="auto"
      data-keys="search"
      @focus="open = true"
      @blur="close"
      @keydown="pressed"
    />
    <KeyCap v-if="!open" command="search" />
    <ul v-show="open" id="search-hits" role="listbox" :aria-label="t('top.search')" class="hits">
      <li
        v-for="(hit, index) in hits"
        :id="`hit-${hit.key}`"
        :key="hit.key"
        class="hit"
        :class="{ on: index === at, barred: hit.barred }"
        :aria-disabled="hit.barred"
        role="option"
        :aria-selected="index === at"
        @mousedown.prevent="choose(hit)"
      >
        <span>{{ hit.title }}</span><span class="time soft">{{ hit.hint }}</span>
      </li>
      <li v-if="!hits.length" class="hit soft" role="option" aria-selected="false">{{ t('top.nothingFound') }}</li>
    </ul>
  </div>
</template>

<style scoped>
.search {
  position: relative;
  flex: 1;
  max-width: 300px;
  min-width: 120px;
  margin-left: auto;
}
input {
  width: 100%;
  height: 31px;
  padding: 0 10px;
  color: var(--ink);
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 6px;
  font: inherit;
}
input::placeholder {
  color: var(--soft);
  opacity: 1;
}
.search > kbd {
  position: absolute;
  right: 8px;
  top: 6px;
  border: 0;
  color: var(--soft);
  pointer-events: none;
}
.hits {
  position: absolute;
  top: 36px;
  right: 0;
  width: 420px;
  max-height: 60vh;
  overflow-y: auto;
  margin: 0;
  padding: 4px;
  list-style: none;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 6px;
  z-index: 40;
}
.hit {
  display: flex;
  justify-content: space-between;
  gap: 16px;
  padding: 5px 10px;
  border-radius: 4px;
  cursor: default;
}
.hit > span:first-child {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.hit .time {
  flex: none;
  font-size: 12px;
}
.hit.barred {
  color: var(--soft);
}
.hit.on {
  background: var(--russet-wash);
}
</style>
