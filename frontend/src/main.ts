import '@fontsource/atkinson-hyperlegible-next/400.css'
import '@fontsource/atkinson-hyperlegible-next/600.css'
import '@fontsource/atkinson-hyperlegible-next/700.css'
import '@fontsource/atkinson-hyperlegible-mono/400.css'
import '@fontsource/atkinson-hyperlegible-mono/500.css'
import 'vuetify/styles'
import '@/kit/base.css'

import { createPinia } from 'pinia'
import { createApp } from 'vue'

import App from '@/App.vue'
import { router } from '@/router'
import { i18n } from '@/kit/i18n'
import { vuetify } from '@/kit/theme'

createApp(App).use(createPinia()).use(router).use(i18n).use(vuetify).mount('#app')
