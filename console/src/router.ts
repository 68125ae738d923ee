import { createRouter, createWebHistory } from 'vue-router';

/** The pages. Each is loaded when it is first shown. */
export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', redirect: '/games' },
    { path: '/cards', name: 'cards', component: () => import('./pages/CardsPage.vue'), meta: { title: 'Cards' } },
    { path: '/hands', name: 'hands', component: () => import('./pages/HandsPage.vue'), meta: { title: 'Hands' } },
    {
      path: '/games/:sheet?',
      name: 'games',
      component: () => import('./pages/GamesPage.vue'),
      meta: { title: 'Games' },
    },
    {
      path: '/workshop',
      name: 'workshop',
      component: () => import('./pages/WorkshopPage.vue'),
      meta: { title: 'Workshop' },
    },
    {
      path: '/workshop/look/:draft',
      name: 'look',
      component: () => import('./pages/DraftPage.vue'),
      meta: { title: 'Workshop' },
    },
    { path: '/workshop/tour', name: 'tour', component: () => import('./pages/TourPage.vue'), meta: { title: 'Tour' } },
    {
      path: '/workshop/:draft',
      name: 'draft',
      component: () => import('./pages/DraftPage.vue'),
      meta: { title: 'Workshop' },
    },
    { path: '/tables', name: 'tables', component: () => import('./pages/TablesPage.vue'), meta: { title: 'Tables' } },
    {
      path: '/tables/:table',
      name: 'table',
      component: () => import('./pages/TablePage.vue'),
      meta: { title: 'Table' },
    },
    {
      path: '/gather/:table',
      name: 'gather',
      component: () => import('./pages/GatheringPage.vue'),
      meta: { title: 'Everybody shuffles' },
    },
    {
      path: '/tables/:table/side',
      name: 'side',
      component: () => import('./pages/SidePage.vue'),
      meta: { title: 'Side by side' },
    },
    {
      path: '/tables/:table/past',
      name: 'past',
      component: () => import('./pages/PastPage.vue'),
      meta: { title: 'Looking back' },
    },
    {
      path: '/trials/:trial?',
      name: 'trials',
      component: () => import('./pages/TrialsPage.vue'),
      meta: { title: 'Trials' },
    },
    {
      path: '/shuffle',
      name: 'shuffle',
      component: () => import('./pages/ShufflePage.vue'),
      meta: { title: 'Shuffle' },
    },
    { path: '/join/:table', name: 'join', component: () => import('./pages/JoinPage.vue'), meta: { title: 'Welcome' } },
    {
      path: '/:rest(.*)*',
      name: 'nowhere',
      component: () => import('./pages/NowherePage.vue'),
      meta: { title: 'Nothing here' },
    },
  ],
});
router.afterEach((to) => {
  document.title = `${String(to.meta.title ?? '')} · Wily Jester`;
});
