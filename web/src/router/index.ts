import { createRouter, createWebHistory, START_LOCATION } from 'vue-router'
import HomeFrame from '../views/HomeFrame.vue'
import WorkshopView from '../views/WorkshopView.vue'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    {
      path: '/',
      component: HomeFrame,
      children: [
        { path: '', name: 'workshop', component: WorkshopView },
        { path: 'day', name: 'day', component: () => import('../views/DayPlanView.vue') },
        {
          path: 'practice',
          name: 'practice',
          component: () => import('../views/PracticeView.vue'),
        },
        { path: 'cars', name: 'cars', component: () => import('../views/CarsView.vue') },
        { path: 'ways', name: 'ways', component: () => import('../views/WaysView.vue') },
        { path: 'devices', name: 'devices', component: () => import('../views/DevicesView.vue') },
        { path: 'gauges', name: 'gauges', component: () => import('../views/GaugesView.vue') },
      ],
    },
    {
      path: '/car/:carId',
      component: () => import('../views/CarFrame.vue'),
      props: true,
      children: [
        { path: '', name: 'car', component: () => import('../views/CarView.vue') },
        {
          path: 'front',
          name: 'car-front',
          component: () => import('../views/CarAxleView.vue'),
          props: { axle: 'front' },
        },
        {
          path: 'rear',
          name: 'car-rear',
          component: () => import('../views/CarAxleView.vue'),
          props: { axle: 'rear' },
        },
        {
          path: 'points',
          name: 'car-points',
          component: () => import('../views/CarPointsView.vue'),
        },
        {
          path: 'geometry',
          name: 'car-geometry',
          component: () => import('../views/GeometryView.vue'),
        },
        {
          path: 'history',
          name: 'car-history',
          component: () => import('../views/CarHistoryView.vue'),
        },
        {
          path: 'fasteners',
          name: 'car-fasteners',
          component: () => import('../views/CarFastenersView.vue'),
        },
      ],
    },
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
        { path: 'walk', name: 'walk', component: () => import('../views/WalkView.vue') },
        {
          path: 'walk-again',
          name: 'walk-again',
          component: () => import('../views/WalkView.vue'),
          props: { after: true },
        },
        { path: 'springs', name: 'springs', component: () => import('../views/SpringsView.vue') },
        { path: 'turns', name: 'turns', component: () => import('../views/TurnsView.vue') },
        { path: 'order', name: 'order', component: () => import('../views/OrderView.vue') },
        { path: 'plan', redirect: { name: 'turns' } },
        { path: 'floor', name: 'floor', component: () => import('../views/FloorView.vue') },
        { path: 'bolts', name: 'bolts', component: () => import('../views/BoltsView.vue') },
        { path: 'check', name: 'check', component: () => import('../views/CheckView.vue') },
        { path: 'debrief', name: 'debrief', component: () => import('../views/DebriefView.vue') },
        { path: 'record', name: 'record', component: () => import('../views/RecordView.vue') },
      ],
    },
    {
      path: '/:rest(.*)*',
      name: 'not-here',
      component: () => import('../views/NotHereView.vue'),
    },
  ],
  // A page that is opened stands at its top: to scroll there would lay it out before it is whole.
  scrollBehavior: (_to, from, saved) => saved ?? (from === START_LOCATION ? false : { top: 0 }),
})
