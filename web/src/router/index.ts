import { createRouter, createWebHistory } from 'vue-router'
import WorkshopView from '../views/WorkshopView.vue'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'workshop', component: WorkshopView },
    {
      path: '/job/:jobId',
      component: () => import('../views/JobFrame.vue'),
      props: true,
      children: [
        { path: '', redirect: { name: 'baseline' } },
        {
          path: 'baseline',
          name: 'baseline',
          component: () => import('../views/BaselineView.vue'),
        },
        { path: 'plan', name: 'plan', component: () => import('../views/PlanView.vue') },
        { path: 'floor', name: 'floor', component: () => import('../views/FloorView.vue') },
        { path: 'check', name: 'check', component: () => import('../views/CheckView.vue') },
        { path: 'record', name: 'record', component: () => import('../views/RecordView.vue') },
      ],
    },
    { path: '/:rest(.*)*', redirect: { name: 'workshop' } },
  ],
  scrollBehavior: (_to, _from, saved) => saved ?? { top: 0 },
})
