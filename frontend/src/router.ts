import { nextTick } from 'vue'
import { createRouter, createWebHistory } from 'vue-router'

import { keysWaitFor } from '@/kit/commands/commands'

/** The stages in the order a project moves through them. */
export const STAGES = ['transcribe', 'time', 'style', 'translate', 'check', 'deliver'] as const
export type Stage = (typeof STAGES)[number]

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'projects', component: () => import('@/stages/projects/ProjectsView.vue') },
    { path: '/hosts', name: 'hosts', component: () => import('@/stages/hosts/HostsPage.vue') },
    { path: '/about', name: 'about', component: () => import('@/stages/about/AboutPage.vue') },
    {
      path: '/project/:projectId',
      component: () => import('@/workspace/WorkspaceView.vue'),
      props: true,
      children: [
        { path: '', redirect: { name: 'time' } },
        { path: 'transcribe', name: 'transcribe', component: () => import('@/stages/transcribe/TranscribeStage.vue') },
        { path: 'time', name: 'time', component: () => import('@/stages/time/TimeStage.vue') },
        { path: 'style', name: 'style', component: () => import('@/stages/style/StyleStage.vue') },
        { path: 'translate', name: 'translate', component: () => import('@/stages/translate/TranslateStage.vue') },
        { path: 'check', name: 'check', component: () => import('@/stages/check/CheckStage.vue') },
        { path: 'spec', name: 'spec', component: () => import('@/stages/check/spec/SpecPage.vue') },
        { path: 'bring-in', name: 'bring-in', component: () => import('@/stages/bring-in/BringInPage.vue') },
        { path: 'script', name: 'script', component: () => import('@/stages/transcribe/script/ScriptPage.vue') },
        { path: 'deliver', name: 'deliver', component: () => import('@/stages/deliver/DeliverStage.vue') },
      ],
    },
    { path: '/:rest(.*)*', redirect: '/' },
  ],
})

/** Goes to a page of the open project. Its code may still be on its way: keys wait for it. */
export function goTo(name: Stage | 'spec' | 'bring-in' | 'script'): Promise<void> {
  return keysWaitFor(router.push({ name }).then(() => nextTick()))
}
