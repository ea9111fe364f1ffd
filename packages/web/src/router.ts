import { encodingsThere } from './api/encodings'
import { startEarly } from './workers/engine'
import { createRouter, createWebHistory } from 'vue-router'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    {
      path: '/',
      name: 'productions',
      component: () => import('./views/ProductionsView.vue'),
      meta: { title: 'Productions' },
    },
    {
      path: '/productions/:id',
      name: 'intake',
      component: () => import('./views/IntakeView.vue'),
      meta: { title: 'Intake' },
    },
    {
      path: '/bench/:shotId',
      name: 'bench',
      component: () => import('./views/BenchView.vue'),
      beforeEnter: startEarly,
      meta: { title: 'Bench' },
    },
    {
      path: '/shelf',
      name: 'shelf',
      component: () => import('./views/ShelfView.vue'),
      meta: { title: 'Shelf' },
    },
    {
      path: '/sheet/shot/:shotId',
      name: 'sheet of a shot',
      component: () => import('./views/SheetView.vue'),
      meta: { title: 'Process sheet' },
    },
    {
      path: '/sheet/:recipeId',
      name: 'sheet',
      component: () => import('./views/SheetView.vue'),
      meta: { title: 'Process sheet' },
    },
    {
      path: '/dispatch',
      name: 'dispatch',
      component: () => import('./views/DispatchView.vue'),
      meta: { title: 'Dispatch' },
    },
    {
      path: '/storage',
      name: 'storage',
      component: () => import('./views/StorageView.vue'),
      meta: { title: 'Storage' },
    },
    ...(import.meta.env.DEV
      ? [{ path: '/components', component: () => import('./dev/ComponentsView.vue'), meta: { title: 'Components' } }]
      : []),
    { path: '/:rest(.*)', redirect: '/' },
  ],
})

router.beforeEach(encodingsThere)
router.afterEach((to) => {
  document.title = `${String(to.meta['title'] ?? '')} · Fog Bath`
})
