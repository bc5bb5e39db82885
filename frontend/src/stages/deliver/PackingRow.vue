<script setup lang="ts">
/** Something on a packing list: its name and what it is, what it leaves out, and how it stands. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

import type { FormatView } from '@/api/client'
import { sentence } from '@/kit/i18n'
import { fileSize } from '@/kit/time'
import type { ItemStanding } from '@/session/packingStore'
import { usePacking } from '@/session/packingStore'
import { useHosts } from '@/session/hostsStore'
import { useLosses } from '@/stages/deliver/losses'
import { useThings } from '@/stages/deliver/things'

const props = defineProps<{
  one: ItemStanding
  formats: readonly FormatView[]
  /** Whether it is being made now, or waits for that. */
  turn: 'now' | 'waits' | null
  /** Why it could not be made the last time. */
  failed: { code: string } | null
}>()
defineEmits<{ choose: []; inOrOut: [] }>()
const { t, locale } = useI18n()
const packing = usePacking()
const lost = useLosses()
const hosts = useHosts()
const { described } = useThings()
const clock = new Intl.DateTimeFormat(locale.value, { hour: '2-digit', minute: '2-digit' })
const day = new Intl.DateTimeFormat(locale.value, { day: 'numeric', month: 'short' })

const keeps = computed(() => {
  const { thing } = props.one.item
  if (thing.kind === 'captions' || thing.kind === 'playlist') return props.one.losses.length ? lost(props.one.losses) : t('packing.keepsAll')
  return t(`packing.keeps.${thing.kind === 'inside' ? (thing.container ?? 'mp4') : thing.kind}`)
})
const keepsAll = computed(() => !props.one.losses.length && props.one.item.thing.kind !== 'report' && !(props.one.item.thing.kind === 'inside' && props.one.item.thing.container !== 'mkv'))
/** Names differ where they end, so that is always in sight. */
const ENDING = 20
const nameParts = computed(() => [props.one.name.slice(0, -ENDING), props.one.name.slice(-ENDING)])
/** What the host calls itself that it goes to. */
const host = computed(() => {
  const to = props.one.item.destination?.connection
  return to ? (hosts.connections?.find(({ id }) => id === to)?.host ?? t('packing.connectionGone')) : ''
})
/** How it is on its host, of what was sent. */
const there = computed(() => (props.one.sent?.sent_ms ? packing.there[props.one.id] : undefined))
const isSame = (time: number) => new Date(time).toDateString() === new Date().toDateString()
const when = computed(() => {
  const { made, sent } = props.one
  const told = (ms: number) => (isSame(ms) ? clock.format(ms) : day.format(ms))
  return [
    ...(made ? [t('packing.madeAt', { when: told(made.made_ms), size: fileSize(made.size_bytes) })] : []),
    ...(sent?.sent_ms ? [t('packing.sentAt', { when: told(sent.sent_ms) })] : []),
  ].join(' · ')
})
const changed = computed(() => {
  const captions = props.one.changes.filter(({ what }) => what === 'captions').reduce((sum, { count }) => sum + count, 0)
  const rest = [...new Set(props.one.changes.filter(({ what }) => what !== 'captions').map(({ what }) => what))]
  return [...(captions ? [t('packing.changed.captions', captions)] : []), ...rest.map((what) => t(`packing.changed.${what}`))].join(', ')
})
const state = computed(() => {
  const { missing, made, changes, item } = props.one
  if (props.turn === 'now') return { kind: 'now', told: t('packing.state.now') }
  if (props.turn === 'waits') return { kind: 'waits', told: t('packing.state.waits') }
  if (item.left_out) return { kind: 'out', told: t('packing.state.out') }
  if (missing) return { kind: 'missing', told: sentence(missing) }
  if (props.failed && (!made || changes.length || !props.one.is_sent)) return { kind: 'missing', told: sentence(props.failed) }
  if (!made) return { kind: 'open', told: t('packing.state.open') }
  if (changes.length) return { kind: 'open', told: t('packing.state.changed', { what: changed.value }) }
  if (!props.one.is_sent) return { kind: 'open', told: t('packing.state.unsent') }
  if (there.value && there.value.state !== 'same') return { kind: 'open', told: there.value.problem ? sentence(there.value.problem) : t(`packing.state.there.${there.value.state ?? 'changed'}`) }
  return { kind: 'same', told: t(item.destination ? 'packing.state.sent' : 'packing.state.same') }
})
</script>

<template>
  <li :aria-current="packing.selectedId === one.id" :class="{ out: one.item.left_out }" :data-item="one.id" :data-state="state.kind" @click="$emit('choose')">
    <input type="checkbox" :checked="!one.item.left_out" :aria-label="t('packing.included', { name: one.name })" @click.stop @change="$emit('inOrOut')" />
    <span class="what">
      <button type="button" class="name time" :aria-pressed="packing.selectedId === one.id" :aria-label="one.name" :title="one.name" @click.stop="$emit('choose')"><span class="begins">{{ nameParts[0] }}</span><span>{{ nameParts[1] }}</span></button>
      <small class="soft">{{ described(one.item.thing, formats) }}<template v-if="host"> · {{ t('packing.goesTo', { host }) }}</template></small>
    </span>
    <span class="keeps" :class="{ all: keepsAll }" :title="keeps">{{ keeps }}</span>
    <span class="state" :class="state.kind">
      {{ state.told }}
      <v-progress-linear v-if="state.kind === 'now'" :model-value="(packing.job?.progress ?? 0) * 100" :indeterminate="!packing.job?.progress" :aria-label="t('packing.state.now')" />
      <small v-if="when && state.kind !== 'now'" class="soft">{{ when }}</small>
    </span>
  </li>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: auto minmax(0, 1.5fr) minmax(0, 0.8fr) minmax(0, 1.2fr);
  align-items: start;
  gap: 4px 14px;
  padding: 8px 8px 8px 10px;
  border-bottom: 1px solid var(--line);
  border-left: 3px solid transparent;
  cursor: default;
}
li[aria-current='true'] {
  background: var(--paper);
  border-left-color: var(--russet);
}
input {
  margin-top: 3px;
}
.what,
.state {
  display: grid;
  gap: 1px;
  min-width: 0;
}
.name {
  display: flex;
  overflow: hidden;
  text-align: left;
  white-space: pre;
}
.begins {
  overflow: hidden;
  text-overflow: ellipsis;
}
.name:focus-visible {
  outline: 2px solid var(--tide);
  outline-offset: 1px;
}
.keeps {
  display: -webkit-box;
  overflow: hidden;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 2;
  font-size: 13px;
  color: var(--straw);
}
.keeps.all,
.state.same {
  color: var(--reed);
}
.state {
  text-align: right;
}
.state.open {
  color: var(--straw);
}
.state.missing {
  color: var(--heather);
}
li.out :is(.name, .keeps, .state) {
  color: var(--soft);
}
</style>
