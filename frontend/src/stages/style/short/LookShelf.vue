<script setup lang="ts">
/** The looks, each telling words of this film on its picture, over and over. */
import { useElementSize, usePreferredReducedMotion, watchDebounced } from '@vueuse/core'
import { computed, nextTick, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'
import { useI18n } from 'vue-i18n'

import { answered, client } from '@/api/client'
import { CaptionOverlay } from '@/picture/captionOverlay'
import { usePlayer } from '@/picture/playerStore'
import { useFrame } from '@/picture/useFrame'
import { useProject } from '@/session/projectStore'
import { useTrack } from '@/session/tracksStore'
import { type ShortLook, useShort } from '@/stages/style/short/shortStore'

const emit = defineEmits<{ give: [look: ShortLook] }>()

const { t } = useI18n()
const track = useTrack()
const player = usePlayer()
const short = useShort()
const project = useProject()
const calm = usePreferredReducedMotion()

const [WIDTH, HEIGHT, UNDER, GAP] = [156, 62, 24, 8]
const across = WIDTH + GAP
const down = HEIGHT + UNDER + GAP
/** Drawn so often a second: words are told in frames of a fifth of a second and more. */
const FRAME_MS = 80

const room = ref<HTMLElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)
const roomSize = useElementSize(room)
const columns = computed(() => Math.max(Math.floor((roomSize.width.value + GAP) / across), 1))
const names = shallowRef<readonly string[]>([])
const loopMs = ref(1000)
const rows = computed(() => Math.ceil(names.value.length / columns.value))
const size = computed(() => ({ width: across * columns.value, height: down * Math.max(rows.value, 1) }))
const byName = computed(() => new Map(short.looks.map((one) => [one.look.name, one])))
const cells = computed(() =>
  names.value.flatMap((name, index) => {
    const found = byName.value.get(name)
    const style = { left: `${(index % columns.value) * across}px`, top: `${Math.floor(index / columns.value) * down}px`, width: `${WIDTH}px`, height: `${HEIGHT + UNDER}px` }
    return found ? [{ name, style, ...found }] : []
  }),
)
let overlay: CaptionOverlay | null = null

async function draw() {
  if (!track.id || !roomSize.width.value) return
  const query = { width: WIDTH, height: HEIGHT, across, down, columns: columns.value, near_ms: Math.max(Math.round(player.timeMs), 0) }
  const found = await answered(client.GET('/api/tracks/{track_id}/look-specimens', { params: { path: { track_id: track.id }, query } })).catch(() => null)
  if (!found) return
  names.value = found.names
  loopMs.value = found.loop_ms
  await nextTick()
  if (!canvas.value) return
  overlay ??= new CaptionOverlay(canvas.value, found.script)
  // Said in one breath it is drawn once.
  await Promise.all([overlay.put(found.script, []), overlay.resized(), show()])
  if (canvas.value) canvas.value.dataset.drawn = String(found.names.length)
}
/** Where in their words they are. Those who want no motion see them when half is told. */
const moment = () => (calm.value === 'reduce' ? loopMs.value / 2 : performance.now() % loopMs.value) / 1000
const show = async () => await overlay?.show({ mediaTime: moment(), ...size.value })

let timer = 0
onMounted(() => {
  void draw()
  const next = async () => {
    // While the film plays it has the renderer's time.
    if (!player.playing && !document.hidden && calm.value !== 'reduce' && canvas.value?.dataset.drawn) await show()
    timer = window.setTimeout(() => void next(), FRAME_MS)
  }
  void next()
})
onBeforeUnmount(() => {
  clearTimeout(timer)
  overlay?.destroy()
  overlay = null
})
watchDebounced([() => short.looks, columns, () => track.id, () => track.loaded, () => short.state?.words], () => void draw(), { debounce: 30 })
/** The look that the track is in is in sight. */
watch([() => short.current?.name, names], async () => {
  await nextTick()
  room.value?.querySelector('[aria-selected=true]')?.scrollIntoView({ block: 'nearest' })
})
watch(size, async () => {
  await nextTick()
  await overlay?.resized()
})

const backdrop = ref('')
const { frame, onFrame } = useFrame()
onFrame(() => {
  const { width, height } = project.project!.film
  const shown = frame(width, height)
  if (!shown) return
  const taken = document.createElement('canvas')
  ;[taken.width, taken.height] = [WIDTH, HEIGHT]
  const wide = Math.min(width, height * 0.8)
  const high = (wide * HEIGHT) / WIDTH
  taken.getContext('2d')!.drawImage(shown.canvas, (width - wide) / 2, height * 0.62 - high / 2, wide, high, 0, 0, WIDTH, HEIGHT)
  backdrop.value = `url(${taken.toDataURL('image/jpeg', 0.8)})`
})

const about = ({ rhythm }: ShortLook) => (rhythm?.by === 'amount' || !rhythm?.by ? t(`short.amount.${rhythm?.amount ?? 3}`) : t(`short.rhythm.${rhythm.by}`))
</script>

<template>
  <section class="shelf" :aria-label="t('short.looks')">
    <header>
      <p class="section-title">{{ t('short.looks') }}</p>
    </header>
    <div class="window" tabindex="0" :aria-label="t('short.looks')" role="group">
    <div ref="room" class="room" :style="{ height: `${rows * down}px` }" role="listbox" :aria-label="t('short.looks')">
      <div v-for="cell in cells" :key="cell.name" class="place" role="presentation" :style="cell.style">
        <div
          class="cell"
          role="option"
          :class="{ on: short.current?.name === cell.name }"
          :aria-selected="short.current?.name === cell.name"
          :data-look="cell.name"
          @click="emit('give', cell.look)"
        >
          <i class="picture" :style="{ height: `${HEIGHT}px`, backgroundImage: backdrop }" />
          <span class="under">
            <svg v-if="cell.kept" viewBox="0 0 10 12" class="mark" role="img" :aria-label="t('short.keptMark')"><path d="M1 0h8v12L5 8.500 1 12z" /></svg>
            <b>{{ cell.name }}</b>
            <small>{{ cell.default ? t('short.isDefault') : about(cell.look) }}</small>
          </span>
        </div>
      </div>
      <canvas ref="canvas" class="drawn" :style="{ width: `${size.width}px`, height: `${size.height}px` }" data-look-specimens />
    </div>
    </div>
  </section>
</template>

<style scoped>
.shelf {
  padding: 10px 12px 6px;
}
header {
  margin-bottom: 6px;
}
/* Three rows and a bit of the next, so that it is plain that there are more. */
.window {
  max-height: 306px;
  padding: 2px;
  margin: -2px;
  overflow: hidden auto;
  scrollbar-width: thin;
}
.room {
  position: relative;
}
.place {
  position: absolute;
}
.drawn {
  position: absolute;
  top: 0;
  left: 0;
  pointer-events: none;
}
.cell {
  height: 100%;
  overflow: hidden;
  cursor: default;
  background: var(--paper);
  border-radius: 6px;
  outline: 1px solid var(--line);
}
.cell.on {
  outline: 2px solid var(--russet);
}
.picture {
  display: block;
  background: #3a4a50 center / cover;
}
.under {
  display: flex;
  align-items: center;
  gap: 5px;
  height: 24px;
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
.mark {
  flex: none;
  width: 8px;
  height: 10px;
  fill: var(--tide);
}
</style>
