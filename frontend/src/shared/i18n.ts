import { createI18n } from 'vue-i18n'

import en from '@/shared/locales/en.json'

export const i18n = createI18n({
  legacy: false,
  locale: 'en',
  fallbackLocale: 'en',
  messages: { en },
})

/** What a language is called, in the language of the page: `Finnish` for `fi`; the tag itself where it has no name. */
export function languageName(tag: string): string {
  try {
    return new Intl.DisplayNames([i18n.global.locale.value], { type: 'language' }).of(tag) ?? tag
  } catch {
    return tag
  }
}
