<script setup lang="ts">
/** The styles side by side, each drawn by the renderer on this film's picture, with how many captions are set in it. */
import { useElementSize, watchDebounced } from '@vueuse/core'
import { computed, nextTick, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import { answered, client } from '@/api/client'
import { CaptionOverlay } from '@/picture/captionOverlay'
import { useFrame } from '@/picture/useFrame'
import { useTrack } from '@/session/tracksStore'
import KeptFile from '@/stages/style/KeptFile.vue'
import { useLooks } from '@/stages/style/looksStore'
import { useStyles } from '@/styling/stylesStore'

const props = defineProps<{ at: string | null }>()
const emit = defineEmits<{ give: [name: string]; menu: [name: string] }>()

const { t } = useI18n()
const track = useTrack()
const styles = useStyles()
const looks = useLooks()

/** A cell's picture, what is under it, and the room between cells, in pixels. */
const [WIDTH, HEIGHT, UNDER, GAP] = [152, 58, 26, 9]
const across = WIDTH + GAP
const down = HEIGHT + UNDER + GAP
/** Of the film's picture, what is seen behind a specimen: as much as its words are drawn on. */
const PART = 0.36

const room = ref<HTMLElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)
const roomSize = useElementSize(room)
const columns = computed(() => Math.max(Math.floor((roomSize.width.value + GAP) / across), 1))
const names = shallowRef<readonly string[]>([])
const rows = computed(() => Math.ceil(names.value.length / columns.value))
const size = computed(() => ({ width: across * columns.value, height: down * Math.max(rows.value, 1) }))
const backdrop = ref('')
let overlay: CaptionOverlay | null = null

/** How many captions of the track are set in each style, by their own name or their speaker's. */
const counts = computed(() => {
  const found = new Map<string, number>()
  const ofSpeakers = new Map(styles.styles.flatMap(({ name, speakers }) => speakers.map((speaker) => [speaker, name] as const)))
  for (const { style, speaker } of track.captions) {
    for (const name of new Set([style ?? styles.usual, ofSpeakers.get(speaker ?? '')])) {
      if (name) found.set(name, (found.get(name) ?? 0) + 1)
    }
  }
  return found
})
const cells = computed(() =>
  names.value.map((name, index) => {
    const own = styles.byName.get(name)
    return {
      name,
      isOwn: own !== undefined,
      kept: own?.kept ?? true,
      older: own?.is_older ?? false,
      count: counts.value.get(name) ?? 0,
      usual: styles.usual === name,
      style: { left: `${(index % columns.value) * across}px`, top: `${Math.floor(index / columns.value) * down}px`, width: `${WIDTH}px`, height: `${HEIGHT + UNDER}px` },
    }
  }),
)

async function draw() {
  if (!track.id || !roomSize.width.value) return
  const found = await answered(
    client.GET('/api/tracks/{track_id}/specimens', {
      params: { path: { track_id: track.id }, query: { width: WIDTH, height: HEIGHT, across, down, columns: columns.value } },
    }),
  ).catch(() => null)
  if (!found) return
  names.value = found.names
  await nextTick()
  if (!canvas.value || !found.names.length) return
  overlay ??= new CaptionOverlay(canvas.value, found.script)
  await overlay.put(found.script, [])
  await overlay.resized()
  await overlay.show({ mediaTime: 1, ...size.value })
  if (canvas.value) canvas.value.dataset.drawn = String(found.names.length)
}
watchDebounced([() => styles.styles, () => styles.kept, columns, () => track.id], () => void draw(), { debounce: 20 })
onMounted(() => void draw())
watch(size, async () => {
  await nextTick()
  await overlay?.resized()
})
onBeforeUnmount(() => overlay?.destroy())

const { frame, onFrame } = useFrame()
/** What the film shows now lies behind them all. */
onFrame(() => {
  const { width, height } = looks.view ?? { width: 1280, height: 720 }
  const shown = frame(width, height)
  if (!shown) return
  const taken = document.createElement('canvas')
  taken.width = WIDTH
  taken.height = HEIGHT
  const wide = width * PART
  const high = (wide * HEIGHT) / WIDTH
  taken.getContext('2d')!.drawImage(shown.canvas, (width - wide) / 2, Math.max(height * 0.94 - high, 0), wide, high, 0, 0, WIDTH, HEIGHT)
  backdrop.value = `url(${taken.toDataURL('image/jpeg', 0.8)})`
})
</script>

<template>
  <section class="shelf" :aria-label="t('style.styles')">
    <header>
      <p class="section-title">{{ t('style.styles') }}</p>
      <slot />
    </header>
    <p v-if="styles.loaded && !names.length" class="soft none">{{ t('style.noStyles') }}</p>
    <div ref="room" class="room" :style="{ height: `${rows * down}px` }" role="listbox" :aria-label="t('style.styles')">
      <div
        v-for="cell in cells"
        :key="cell.name"
        class="cell"
        role="option"
        :class="{ on: looks.styleName === cell.name, at: props.at === cell.name, offered: !cell.isOwn }"
        :style="cell.style"
        :aria-selected="looks.styleName === cell.name"
        :data-style="cell.name"
        :title="cell.isOwn ? t('style.give', { style: cell.name }) : t('style.takeKept', { style: cell.name })"
        @click="emit('give', cell.name)"
        @contextmenu.prevent="emit('menu', cell.name)"
      >
        <i class="picture" :style="{ height: `${HEIGHT}px`, backgroundImage: backdrop }" />
        <span class="under">
          <svg v-if="cell.kept" viewBox="0 0 10 12" class="mark" role="img" :aria-label="t('style.keptMark')"><path d="M1 0h8v12L5 8.500 1 12z" /></svg>
          <b>{{ cell.name }}</b>
          <small v-if="cell.older" class="older">{{ t('style.newer') }}</small>
          <small v-else-if="cell.usual">{{ t('style.usual') }}</small>
          <small v-if="cell.isOwn" class="count" :title="t('style.used', cell.count)">{{ cell.count }}</small>
        </span>
      </div>
      <canvas v-show="names.length" ref="canvas" class="drawn" :style="{ width: `${size.width}px`, height: `${size.height}px` }" data-specimens />
    </div>
    <KeptFile />
  </section>
</template>

<style scoped>
.shelf {
  padding: 10px 16px 16px;
}
header {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 10px;
  margin-bottom: 8px;
}
header .section-title {
  margin-right: auto;
}
.room {
  position: relative;
}
.drawn {
  position: absolute;
  top: 0;
  left: 0;
  pointer-events: none;
}
.cell {
  position: absolute;
  overflow: hidden;
  cursor: default;
  background: var(--paper);
  border-radius: 6px;
  outline: 1px solid var(--line);
}
.cell.on {
  outline: 2px solid var(--russet);
}
.cell.at {
  outline: 2px solid var(--tide);
  outline-offset: 2px;
}
.picture {
  display: block;
  background: #3a4a50 center / cover;
}
.under {
  display: flex;
  align-items: center;
  gap: 5px;
  height: 26px;
  padding: 0 7px;
  font-size: 12.5px;
}
.under b {
  flex: 1;
  overflow: hidden;
  font-weight: 500;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.under small {
  font-size: 11.5px;
  color: var(--soft);
}
.under .count {
  font-family: var(--time-font);
}
.under .older {
  color: var(--straw);
}
.mark {
  flex: none;
  width: 8px;
  height: 10px;
  fill: var(--tide);
}
.none {
  margin: 0;
}
</style>
