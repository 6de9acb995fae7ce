import { createRouter, createWebHistory } from 'vue-router'
import WelcomeView from './views/WelcomeView.vue'

/** The address holds the state: project, asset, station; finding, view and texture stand in the query. */
export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'welcome', component: WelcomeView },
    { path: '/p/:project', redirect: (to) => ({ name: 'arrivals', params: to.params }) },
    { path: '/p/:project/arrivals', name: 'arrivals', component: () => import('./views/ArrivalsView.vue') },
    { path: '/p/:project/assets', name: 'assets', component: () => import('./views/AssetsView.vue') },
    {
      path: '/p/:project/assets/:asset/:station?',
      name: 'bench',
      component: () => import('./views/BenchView.vue'),
    },
    { path: '/p/:project/scenes/:scene', name: 'scene', component: () => import('./views/SceneView.vue') },
    { path: '/p/:project/pairing', name: 'pairing', component: () => import('./views/PairingView.vue') },
    { path: '/p/:project/rulebook', name: 'rulebook', component: () => import('./views/RulebookView.vue') },
    { path: '/p/:project/ledger', name: 'ledger', component: () => import('./views/LedgerView.vue') },
    { path: '/p/:project/dispatch', name: 'dispatch', component: () => import('./views/DispatchView.vue') },
    { path: '/:rest(.*)*', redirect: '/' },
  ],
})
