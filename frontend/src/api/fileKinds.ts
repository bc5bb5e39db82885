/** What a file is brought in as, by its name. */
import { answered, client, type Schemas } from '@/api/client'

const SCRIPTS = ['.txt', '.docx', '.odt', '.rtf']

let formats: Promise<Schemas['FormatInfoView'][]> | undefined

/** The caption formats that can be read; asked for once. */
export function captionFormats(): Promise<Schemas['FormatInfoView'][]> {
  formats ??= answered(client.GET('/api/caption-formats')).catch((unreachable: unknown) => {
    formats = undefined
    throw unreachable
  })
  return formats
}

/** Whatever is neither captions nor a script is taken for a film: there are too many kinds of those to list. */
export function kindOfFile(name: string, captionEndings: readonly string[]): 'films' | 'captions' | 'scripts' {
  const ending = `.${name.split('.').at(-1)!.toLowerCase()}`
  if (SCRIPTS.includes(ending)) return 'scripts'
  return captionEndings.includes(ending) ? 'captions' : 'films'
}

export async function sortedByKind(files: readonly File[]) {
  const endings = (await captionFormats()).flatMap((format) => format.endings)
  const sorted: Record<ReturnType<typeof kindOfFile>, File[]> = { films: [], captions: [], scripts: [] }
  for (const file of files) sorted[kindOfFile(file.name, endings)].push(file)
  return sorted
}

/** The language that a file's name says it is in, such as `interview.de.mp4`; null where it says none. */
export function languageInName(name: string): string | null {
  const tag = /[._-]([a-z]{2}(?:-[A-Z]{2})?)\.[^.]+$/.exec(name)?.[1]
  if (!tag) return null
  return new Intl.DisplayNames(['en'], { type: 'language', fallback: 'none' }).of(tag) ? tag : null
}
