/** The tidal flats, by day and by night, for Vuetify and for plain CSS alike. */
import { usePreferredDark, useStorage } from '@vueuse/core'
import { computed, watch } from 'vue'
import { createVuetify, useTheme } from 'vuetify'
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg'

const day = {
  background: '#F6F1E7',
  surface: '#FFFDF8',
  'surface-variant': '#ECE4D5',
  'on-surface-variant': '#23201C',
  primary: '#A6522B',
  secondary: '#3F6B78',
  success: '#5E7D4A',
  warning: '#855C05',
  error: '#8C2F5B',
  info: '#3F6B78',
}
const night = {
  background: '#14191B',
  surface: '#1D2427',
  'surface-variant': '#263034',
  'on-surface-variant': '#E9E2D3',
  primary: '#D98A5F',
  secondary: '#86B4C1',
  success: '#A3C48C',
  warning: '#DDAF4E',
  error: '#DE8FB4',
  info: '#86B4C1',
}

export const vuetify = createVuetify({
  theme: {
    defaultTheme: 'day',
    themes: {
      day: { dark: false, colors: day },
      night: { dark: true, colors: night },
    },
  },
  icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
  defaults: {
    global: { ripple: false },
    VBtn: { variant: 'outlined', density: 'comfortable', rounded: 'md' },
    VTextField: { density: 'compact', variant: 'outlined', hideDetails: 'auto' },
    VSelect: { density: 'compact', variant: 'outlined', hideDetails: 'auto' },
    VProgressLinear: { rounded: true, height: 4, color: 'secondary' },
  },
})

/** What the user chose: `auto` follows the system. */
export const lightChoice = useStorage<'auto' | 'day' | 'night'>('dunlin.light', 'auto')

const prefersDark = usePreferredDark()

/** The light that is shown now. */
export const light = computed<'day' | 'night'>(() => {
  if (lightChoice.value !== 'auto') return lightChoice.value
  return prefersDark.value ? 'night' : 'day'
})

/** Keeps Vuetify and the page's own colours at the chosen light. */
export function useAppTheme() {
  const theme = useTheme()
  watch(
    light,
    (name) => {
      theme.change(name)
      document.documentElement.dataset.light = name
    },
    { immediate: true, flush: 'sync' },
  )
}
