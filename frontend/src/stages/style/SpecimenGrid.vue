<script setup lang="ts">
/** Looks side by side, each drawn by the renderer on this film's picture: styles, or a caption in each family of fonts. */
import { useResizeObserver, watchDebounced } from '@vueuse/core'
import { computed, nextTick, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'

import { andOnceMore } from '@/kit/oneAtATime'
import { drawOn, endSurfaces, leaveSurface, type Surface, takeSurface } from '@/picture/surfaces'
import { useFrame } from '@/picture/useFrame'
import { useFonts } from '@/session/fonts'
import { useTrack } from '@/session/tracksStore'
import { useLooks } from '@/stages/style/looksStore'
import { across, askedEarly, down, GAP, HEIGHT, lastColumns, sizeOf, type Specimens, specimensOf, UNDER, WIDTH } from '@/stages/style/specimens'

const props = defineProps<{
  label: string
  /** The caption whose words are drawn in each family; styles are drawn without one. */
  inFonts?: string | null
  /** What has to be drawn anew when it changes. */
  by: unknown
}>()
const emit = defineEmits<{ drawn: [] }>()

const track = useTrack()
const fonts = useFonts()
const looks = useLooks()

/** Of the film's picture, what is seen behind a specimen: as much as its words are drawn on. */
const PART = 0.36

const room = ref<HTMLElement | null>(null)
const sheet = ref<HTMLElement | null>(null)
const roomWidth = ref(0)
/** As many as there is room for; until that is known, as many as there were the last time. */
const columns = computed(() => (roomWidth.value ? Math.max(Math.floor((roomWidth.value + GAP) / across), 1) : lastColumns.value))
const names = shallowRef<readonly string[]>([])
const size = computed(() => sizeOf(names.value.length, columns.value))
const backdrop = ref('')
let surface: Surface | null = null

const cells = computed(() =>
  names.value.map((name, index) => ({
    name,
    style: { left: `${(index % columns.value) * across}px`, top: `${Math.floor(index / columns.value) * down}px`, width: `${WIDTH}px`, height: `${HEIGHT + UNDER}px` },
  })),
)

/** What is drawn on, in its place; none once this is gone. */
function drawnOn(): Surface | null {
  if (!sheet.value) return null
  surface ??= takeSurface()
  if (!sheet.value.contains(surface.canvas)) sheet.value.append(surface.canvas)
  return surface
}

async function show(found: Specimens) {
  names.value = found.names
  await nextTick()
  const on = found.names.length ? drawnOn() : null
  if (!on) return
  await drawOn(on, found.script, size.value)
  if (sheet.value) sheet.value.dataset.drawn = String(found.names.length)
}
const draw = andOnceMore(async () => {
  if (!track.id || !columns.value) return
  lastColumns.value = columns.value
  const early = props.inFonts ? null : await askedEarly(track.id, columns.value)
  if (early) {
    await show(early)
    emit('drawn')
  }
  const found = await specimensOf(track.id, columns.value, props.inFonts)
  if (found && found.script !== early?.script) await show(found)
  emit('drawn')
})
watch(
  () => fonts.replaced,
  () => {
    endSurfaces(surface)
    surface = null
  },
)
watchDebounced([() => props.by, () => props.inFonts, () => fonts.families, columns, () => track.id], () => void draw(), { debounce: 20 })
useResizeObserver(room, ([now]) => (roomWidth.value = now!.contentRect.width))
onMounted(() => {
  // To measure now is to lay out all of the stage: the observer tells once that is done anyway.
  if (!lastColumns.value) roomWidth.value = room.value!.clientWidth
  drawnOn()
  void draw()
})
onBeforeUnmount(() => {
  if (surface) leaveSurface(surface)
  surface = null
})

const { frame, onFrame } = useFrame()
/** What the film shows now lies behind them all. */
onFrame(() => {
  const { width, height } = looks.size
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
  <div ref="room" class="room" :style="{ height: names.length ? `${size.height}px` : '0' }" role="listbox" :aria-label="label">
    <div v-for="cell in cells" :key="cell.name" class="place" role="presentation" :style="cell.style">
      <slot :item="cell.name" :picture="{ height: `${HEIGHT}px`, backgroundImage: backdrop }" />
    </div>
    <div ref="sheet" class="drawn" :style="{ width: `${size.width}px`, height: `${size.height}px` }" data-specimens />
  </div>
</template>

<style scoped>
.room {
  position: relative;
}
.drawn {
  position: absolute;
  top: 0;
  left: 0;
  pointer-events: none;
}
/* A surface that was left shows what was drawn on it last. */
.drawn:not([data-drawn]) {
  visibility: hidden;
}
.place {
  position: absolute;
}
</style>
