/** The sound's pitches over time, as pictures of half a minute each. */
import { useSlices } from '@/score/slices'

const BANDS = 64
/** What one row of a picture stands for. */
export const STEP_MS = 10
const STEPS = 3000
/** Pictures kept: twice what the farthest scale shows. */
const MOST = 12

export const SLICE_MS = STEPS * STEP_MS

export interface Look {
  /** `#rrggbb` of what sounds. */
  colour: string
  /** From 0, where all is seen, to 1, where only the loudest is. */
  contrast: number
}

interface Slice {
  levels: Uint8Array
  picture: OffscreenCanvas
  /** The look it was drawn in last. */
  drawn: string
}

export function useSpectrum() {
  const slices = useSlices<Slice>(MOST, (bytes) => {
    const levels = new Uint8Array(bytes)
    return { levels, picture: new OffscreenCanvas(BANDS, Math.max(levels.length / BANDS, 1)), drawn: '' }
  })

  /** A slice's picture, time down and pitch to the right; null while it is fetched. */
  function picture(filmId: string, index: number, look: Look): OffscreenCanvas | null {
    const slice = slices.at(`/api/films/${filmId}/spectrum?first=${index * STEPS}&count=${STEPS}`)
    if (!slice?.levels.length) return null
    const name = `${look.colour} ${look.contrast}`
    if (slice.drawn !== name) paint(slice, look)
    slice.drawn = name
    return slice.picture
  }

  return { arrived: slices.arrived, picture }
}

function paint({ levels, picture }: Slice, { colour, contrast }: Look) {
  const context = picture.getContext('2d')!
  const image = context.createImageData(picture.width, picture.height)
  const pixels = new Uint32Array(image.data.buffer)
  const [red, green, blue] = [1, 3, 5].map((at) => parseInt(colour.slice(at, at + 2), 16)) as [number, number, number]
  // Bytes stand as red, green, blue, opacity: the last is the highest of a little-endian word.
  const ink = (blue << 16) | (green << 8) | red
  const opacities = Uint32Array.from({ length: 256 }, (_, level) => (shade(level / 255, contrast) << 24) | ink)
  for (let i = 0; i < levels.length; i++) pixels[i] = opacities[levels[i]!]!
  context.putImageData(image, 0, 0)
}

/** Opacity, to 255: what is below a floor is clear, and the floor and the rise above it grow with contrast. */
function shade(level: number, contrast: number): number {
  const floor = 0.6 * contrast
  const above = Math.max(level - floor, 0) / (1 - floor)
  return Math.round(255 * Math.min(above * (1 + contrast), 1) ** (1 + contrast))
}

export type Spectrum = ReturnType<typeof useSpectrum>
