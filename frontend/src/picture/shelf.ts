/** The fonts that ship, and those that were added: those of the script that is drawn are fetched when it names them. */
import shipped from '@fonts/families.json'

export const LATIN = ['Regular', 'Bold', 'Italic', 'BoldItalic', 'Black', 'BlackItalic'].map((face) => `/fonts/NotoSans-${face}.ttf`)

const files = new Map(shipped.map(({ family, files }) => [family, Object.values(files).map((file) => `/fonts/shelf/${file}`)]))
let added: ReadonlyMap<string, readonly string[]> = new Map()

/** Has the families be known that were added, with the addresses of their files; and no others of that kind. */
export function knowAdded(families: Iterable<{ name: string; files: readonly string[] }>) {
  added = new Map(Array.from(families, ({ name, files: own }) => [name, own]))
}

/** Addresses of the fonts that a render script names, in its styles or its events, but for the Latin ones. */
export function fontsNamed(script: string): string[] {
  const named = new Set(Array.from(script.matchAll(/^Style: [^,]*,([^,]*)|\\fn@?([^\\}]*)/gm), ([, style, code]) => style ?? code!))
  return [...named].flatMap((family) => files.get(family) ?? added.get(family) ?? [])
}
