import { createRouter, createWebHistory } from 'vue-router'
import PlansView from './views/plans/PlansView.vue'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'plans', component: PlansView },
    {
      path: '/plans/:id',
      component: () => import('./views/plan/PlanFrame.vue'),
      children: [
        { path: '', name: 'route', component: () => import('./views/route/RouteView.vue') },
        { path: 'map', name: 'map', component: () => import('./views/map/MapView.vue') },
        { path: 'walk', name: 'walk', component: () => import('./views/walk/WalkView.vue') },
        { path: 'curves', name: 'curves', component: () => import('./views/curves/CurvesView.vue') },
      ],
    },
    { path: '/:rest(.*)*', redirect: '/' },
  ],
})
