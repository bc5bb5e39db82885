import { createI18n } from 'vue-i18n'

import en from '@/kit/locales/en.json'
import said from '@said/en.json'

export const i18n = createI18n({
  legacy: false,
  locale: 'en',
  fallbackLocale: 'en',
  messages: { en: { ...en, said } },
})

/** What a language is called, in the language of the page: `Finnish` for `fi`; the tag itself where it has no name. */
export function languageName(tag: string): string {
  try {
    return new Intl.DisplayNames([i18n.global.locale.value], { type: 'language' }).of(tag) ?? tag
  } catch {
    return tag
  }
}

/** What the server has to say: a code with values, whose words are those that the command line has too. */
export interface Message {
  code: string
  values?: Record<string, unknown>
}

/** The words of a message; a value may be a message itself. */
export function inWords({ code, values = {} }: Message): string {
  const shown = Object.fromEntries(Object.entries(values).map(([name, value]) => [name, valueInWords(value)]))
  const { t } = i18n.global
  return typeof values.count === 'number' ? t(`said.${code}`, shown, values.count) : t(`said.${code}`, shown)
}

/** A message's words as a sentence begins. */
export function sentence(message: Message): string {
  return capitalised(inWords(message))
}

/** Words as a whole sentence, whether they are one already or not. */
export function asSentence(words: string): string {
  return words && capitalised(words) + (/[.!?]$/.test(words) ? '' : '.')
}

function capitalised(words: string): string {
  return words.charAt(0).toUpperCase() + words.slice(1)
}

function valueInWords(value: unknown): string {
  if (typeof value === 'number') return new Intl.NumberFormat(i18n.global.locale.value, { useGrouping: false, maximumFractionDigits: 9 }).format(value)
  if (value && typeof value === 'object' && 'code' in value) return inWords(value as Message)
  return String(value)
}

/** Whether a problem is one that there are words for. */
export function isMessage(problem: unknown): problem is Message {
  const code = (problem as Message | null)?.code
  return typeof code === 'string' && i18n.global.te(`said.${code}`)
}
