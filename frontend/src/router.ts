import { nextTick } from 'vue'
import { createRouter, createWebHistory } from 'vue-router'

import { keysWaitFor } from '@/kit/commands/commands'

/** The stages in the order a project moves through them. */
export const STAGES = ['transcribe', 'time', 'style', 'translate', 'check', 'deliver'] as const
export type Stage = (typeof STAGES)[number]

const PAGES: Record<Stage, () => Promise<object>> = {
  transcribe: () => import('@/stages/transcribe/TranscribeStage.vue'),
  time: () => import('@/stages/time/TimeStage.vue'),
  style: () => import('@/stages/style/StyleStage.vue'),
  translate: () => import('@/stages/translate/TranslateStage.vue'),
  check: () => import('@/stages/check/CheckStage.vue'),
  deliver: () => import('@/stages/deliver/DeliverStage.vue'),
}

/** Fetches the code of a stage that is about to be opened. */
export function fetchStage(stage: Stage) {
  // Where it cannot be fetched, opening it says so.
  void PAGES[stage]().catch(() => undefined)
}

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
        ...STAGES.map((name) => ({ path: name, name, component: PAGES[name] })),
        { path: 'spec', name: 'spec', component: () => import('@/stages/check/spec/SpecPage.vue') },
        { path: 'bring-in', name: 'bring-in', component: () => import('@/stages/bring-in/BringInPage.vue') },
        { path: 'script', name: 'script', component: () => import('@/stages/transcribe/script/ScriptPage.vue') },
      ],
    },
    { path: '/:rest(.*)*', redirect: '/' },
  ],
})

/** Goes to a page of the open project. Its code may still be on its way: keys wait for it. */
export function goTo(name: Stage | 'spec' | 'bring-in' | 'script'): Promise<void> {
  return keysWaitFor(router.push({ name }).then(() => nextTick()))
}
