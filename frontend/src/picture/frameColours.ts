/** The colours of a frame of the film. */
export type Pixels = Pick<ImageData, 'data' | 'width' | 'height'>
type Rgb = [number, number, number]

/** How far two colours are apart, of 255 a channel, to be told as two. */
const APART = 40
/** Steps a channel that colours are counted by. */
const STEPS = 12

const hex = (channels: Rgb) => `#${channels.map((value) => Math.round(value).toString(16).padStart(2, '0')).join('').toUpperCase()}`

/** `#RRGGBB` of the mean of a square around a pixel, as far as it is in the picture. */
export function meanColour({ data, width, height }: Pixels, x: number, y: number, reach = 1): string {
  const sum: Rgb = [0, 0, 0]
  let count = 0
  for (let row = Math.max(y - reach, 0); row <= Math.min(y + reach, height - 1); row++) {
    for (let column = Math.max(x - reach, 0); column <= Math.min(x + reach, width - 1); column++) {
      const at = (row * width + column) * 4
      for (const channel of [0, 1, 2] as const) sum[channel] += data[at + channel]!
      count++
    }
  }
  return hex(sum.map((value) => value / Math.max(count, 1)) as Rgb)
}

/** `#RRGGBB` of the colours that most of a picture has, the most used first; none is near another. */
export function commonColours({ data }: Pixels, most: number): string[] {
  const bins = new Map<number, { sum: Rgb; count: number }>()
  for (let at = 0; at < data.length; at += 4) {
    const [red, green, blue] = [data[at]!, data[at + 1]!, data[at + 2]!]
    const step = (value: number) => Math.min(Math.floor((value * STEPS) / 256), STEPS - 1)
    const key = (step(red) * STEPS + step(green)) * STEPS + step(blue)
    const bin = bins.get(key) ?? { sum: [0, 0, 0] as Rgb, count: 0 }
    bin.sum[0] += red
    bin.sum[1] += green
    bin.sum[2] += blue
    bin.count++
    bins.set(key, bin)
  }
  const found: Rgb[] = []
  for (const { sum, count } of [...bins.values()].sort((a, b) => b.count - a.count)) {
    const colour = sum.map((value) => value / count) as Rgb
    if (found.every((other) => Math.hypot(...colour.map((value, channel) => value - other[channel]!)) >= APART)) found.push(colour)
    if (found.length === most) break
  }
  return found.map(hex)
}
