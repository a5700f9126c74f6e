import { createRouter, createWebHistory } from 'vue-router'
import PlansView from './views/plans/PlansView.vue'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'plans', component: PlansView },
    { path: '/plans/:id', name: 'route', component: () => import('./views/route/RouteView.vue') },
    { path: '/:rest(.*)*', redirect: '/' },
  ],
})
