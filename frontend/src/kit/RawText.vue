<script setup lang="ts">
/** A file as it is: its text, or where it is none, its bytes. */
import { computed } from 'vue'
import { useI18n } from 'vue-i18n'

import PanelHead from '@/kit/PanelHead.vue'

const props = defineProps<{
  title: string
  bytes: ArrayBuffer
  /** As browsers call it; without one it is UTF-8, by its byte order mark UTF-16. */
  encoding?: string | null
}>()
defineEmits<{ close: [] }>()
const { t } = useI18n()

/** As many lines as anybody looks through here. */
const MOST_LINES = 4000
const BYTES_A_LINE = 16

/** The text of bytes; null where they are none. */
function textOf(bytes: ArrayBuffer): string | null {
  const head = new Uint8Array(bytes, 0, Math.min(bytes.byteLength, 4096))
  const wide = head[0] === 0xff && head[1] === 0xfe ? 'utf-16le' : head[0] === 0xfe && head[1] === 0xff ? 'utf-16be' : null
  if (!wide && head.includes(0)) return null
  for (const label of [wide, props.encoding, 'utf-8', 'windows-1252']) {
    if (!label) continue
    try {
      return new TextDecoder(label, { fatal: label !== 'windows-1252' }).decode(bytes)
    } catch {
      continue
    }
  }
  return null
}

const hex = (value: number) => value.toString(16).padStart(2, '0')

function dumpOf(bytes: ArrayBuffer): string {
  const all = new Uint8Array(bytes)
  const lines: string[] = []
  for (let at = 0; at < all.length && lines.length < MOST_LINES; at += BYTES_A_LINE) {
    const part = [...all.subarray(at, at + BYTES_A_LINE)]
    const shown = part.map((byte) => (byte >= 32 && byte < 127 ? String.fromCharCode(byte) : '·')).join('')
    lines.push(`${at.toString(16).padStart(6, '0')}  ${part.map(hex).join(' ').padEnd(BYTES_A_LINE * 3)} ${shown}`)
  }
  return lines.join('\n')
}

const text = computed(() => textOf(props.bytes))
const shown = computed(() => text.value?.split(/\r\n|\r|\n/, MOST_LINES).join('\n') ?? dumpOf(props.bytes))
</script>

<template>
  <section class="raw" :aria-label="t('raw.title')">
    <PanelHead class="head" :title="t('raw.title')" :about="title" @close="$emit('close')" />
    <pre class="time" tabindex="0" data-raw-text>{{ shown }}</pre>
  </section>
</template>

<style scoped>
.raw {
  display: flex;
  flex-direction: column;
  padding: 10px 16px 14px;
}
.head {
  margin-bottom: 6px;
}
pre {
  max-height: 46vh;
  margin: 0;
  padding: 8px 10px;
  overflow: auto;
  font-size: 12px;
  line-height: 1.45;
  background: var(--sand);
  border: 1px solid var(--line);
  border-radius: 6px;
}
</style>
