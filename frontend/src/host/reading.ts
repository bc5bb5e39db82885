/** How a viewer likes to read: kept in the browser, the same for every film. */
import { computed, ref, watch } from 'vue'

export const FACES = { plain: "'Source Sans 3', 'Noto Sans', sans-serif", book: "'Lora', serif", slab: "'Zilla Slab', serif", hand: "'Patrick Hand', cursive" } as const
export const GROUNDS = ['bare', 'shade', 'paper'] as const
export const PLACES = ['own', 'below'] as const
const SIZES = [3, 3.6, 4.2, 5, 6, 7.4, 9]

const KEPT = 'strandline-reading'
const kept = JSON.parse(localStorage.getItem(KEPT) ?? '{}') as { size?: number; face?: keyof typeof FACES; ground?: (typeof GROUNDS)[number]; place?: (typeof PLACES)[number] }
const size = ref(SIZES.includes(kept.size ?? 0) ? kept.size! : 3.6)
const face = ref<keyof typeof FACES>(kept.face && kept.face in FACES ? kept.face : 'plain')
const ground = ref<(typeof GROUNDS)[number]>(GROUNDS.find((one) => one === kept.ground) ?? 'shade')
const place = ref<(typeof PLACES)[number]>(PLACES.find((one) => one === kept.place) ?? 'own')
watch([size, face, ground, place], () => localStorage.setItem(KEPT, JSON.stringify({ size: size.value, face: face.value, ground: ground.value, place: place.value })))

/** In per cent of the picture's width. */
const style = computed(() => ({ fontSize: `${size.value}cqw`, fontFamily: FACES[face.value], lineHeight: '1.42' }))
const step = (by: number) => (size.value = SIZES[Math.min(Math.max(SIZES.indexOf(size.value) + by, 0), SIZES.length - 1)]!)

export function useReading() {
  return { size, face, ground, place, style, larger: () => void step(1), smaller: () => void step(-1) }
}
