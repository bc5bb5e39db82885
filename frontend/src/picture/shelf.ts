/** The fonts that ship: those of the script that is drawn are fetched when it names them. */
import families from '@fonts/families.json'

export const LATIN = ['Regular', 'Bold', 'Italic', 'BoldItalic', 'Black', 'BlackItalic'].map((face) => `/fonts/NotoSans-${face}.ttf`)

const files = new Map(families.map(({ family, files }) => [family, Object.values(files).map((file) => `/fonts/shelf/${file}`)]))

/** Addresses of the fonts that a render script names, in its styles or its events, but for the Latin ones. */
export function fontsNamed(script: string): string[] {
  const named = new Set(Array.from(script.matchAll(/^Style: [^,]*,([^,]*)|\\fn@?([^\\}]*)/gm), ([, style, code]) => style ?? code!))
  return [...named].flatMap((family) => files.get(family) ?? [])
}
