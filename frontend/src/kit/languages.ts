/** Languages by the names that people write. */
import { languageName } from '@/kit/i18n'

/** Tags of languages that films are often translated into, to choose from by name; any other is written by its tag. */
export const WRITTEN_OFTEN = [
  'ar', 'bg', 'bn', 'ca', 'cs', 'cy', 'da', 'de', 'el', 'en', 'en-GB', 'en-US', 'es', 'es-419', 'et', 'eu', 'fa', 'fi', 'fr', 'fr-CA', 'ga', 'gl', 'he',
  'hi', 'hr', 'hu', 'id', 'is', 'it', 'ja', 'ko', 'lt', 'lv', 'mk', 'ms', 'nb', 'nl', 'nn', 'pl', 'pt', 'pt-BR', 'ro', 'ru', 'sk', 'sl', 'sq', 'sr',
  'sv', 'sw', 'ta', 'te', 'th', 'tr', 'uk', 'ur', 'vi', 'zh-Hans', 'zh-Hant',
] as const

const TAG = /^[A-Za-z]{2,3}(-[A-Za-z0-9]{2,8})*$/

/** The tag of a language that was written by its name in the page's language, or by its tag; nothing for what is neither. */
export function tagOfLanguage(written: string): string {
  const text = written.trim()
  const named = WRITTEN_OFTEN.find((tag) => languageName(tag).toLowerCase() === text.toLowerCase())
  if (named) return named
  // A tag that nothing is called by is most likely the beginning of a name.
  return TAG.test(text) && languageName(text).toLowerCase() !== text.toLowerCase() ? text : ''
}
