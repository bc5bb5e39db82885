import '@/host/host.css'

import { createApp } from 'vue'
import { createI18n } from 'vue-i18n'
import { createRouter, createWebHistory } from 'vue-router'

import HostPage from '@/host/HostPage.vue'
import en from '@/host/en.json'

const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'films', component: () => import('@/host/FilmTable.vue') },
    { path: '/film/:id', name: 'film', component: () => import('@/host/FilmPage.vue'), props: true },
    { path: '/programs', name: 'programs', component: () => import('@/host/ProgramsPage.vue') },
    { path: '/:rest(.*)', redirect: { name: 'films' } },
  ],
})
const i18n = createI18n({ legacy: false, locale: 'en', messages: { en } })

createApp(HostPage).use(router).use(i18n).mount('#host')
