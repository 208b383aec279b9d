import { createRouter, createWebHistory } from 'vue-router'
import { useSession } from './stores/session'

/** The one list of views, and who may use them: the rail is made from it, group by group. */
export const views = [
  {
    name: 'tip-maker',
    title: 'Tip maker',
    group: 'Make',
    path: '/tip-maker',
    who: 'editors',
    component: () => import('./views/tipmaker/TipMaker.vue'),
  },
  {
    name: 'drafts',
    title: 'Bench',
    group: 'Make',
    path: '/bench',
    who: 'editors',
    component: () => import('./views/bench/Drafts.vue'),
  },
  {
    name: 'parts',
    title: 'Parts',
    group: 'Make',
    path: '/parts',
    who: 'editors',
    component: () => import('./views/parts/Parts.vue'),
  },
  {
    name: 'wall',
    title: 'Wall',
    group: 'Keep',
    path: '/wall',
    who: 'all',
    component: () => import('./views/wall/Wall.vue'),
  },
  {
    name: 'sets',
    title: 'Sets',
    group: 'Keep',
    path: '/sets',
    who: 'all',
    component: () => import('./views/sets/Sets.vue'),
  },
  {
    name: 'families',
    title: 'Families & tags',
    group: 'Keep',
    path: '/families',
    who: 'all',
    component: () => import('./views/families/Families.vue'),
  },
  {
    name: 'doubles',
    title: 'Doubles',
    group: 'Keep',
    path: '/doubles',
    who: 'editors',
    component: () => import('./views/doubles/Doubles.vue'),
  },
  {
    name: 'intake',
    title: 'Intake',
    group: 'Hand over',
    path: '/intake',
    who: 'editors',
    component: () => import('./views/intake/Intake.vue'),
  },
  {
    name: 'bundles',
    title: 'Bundles',
    group: 'Hand over',
    path: '/bundles',
    who: 'all',
    component: () => import('./views/bundles/Bundles.vue'),
  },
  {
    name: 'exports',
    title: 'Exports',
    group: 'Hand over',
    path: '/exports',
    who: 'all',
    component: () => import('./views/exports/Exports.vue'),
  },
  {
    name: 'recipes',
    title: 'Recipes',
    group: 'Hand over',
    path: '/recipes',
    who: 'editors',
    component: () => import('./views/recipes/Recipes.vue'),
  },
  {
    name: 'seats',
    title: 'Seats',
    group: 'Hand over',
    path: '/seats',
    who: 'all',
    component: () => import('./views/seats/Seats.vue'),
  },
  {
    name: 'library',
    title: 'This library',
    group: 'Team',
    path: '/library',
    who: 'all',
    component: () => import('./views/library/Library.vue'),
  },
  {
    name: 'offers',
    title: 'Offers',
    group: 'Team',
    path: '/offers',
    who: 'all',
    component: () => import('./views/offers/Offers.vue'),
  },
  {
    name: 'following',
    title: 'Following',
    group: 'Team',
    path: '/following',
    who: 'all',
    component: () => import('./views/following/Following.vue'),
  },
  {
    name: 'inbox',
    title: 'Inbox',
    group: 'Team',
    path: '/inbox',
    who: 'all',
    component: () => import('./views/inbox/Inbox.vue'),
  },
  {
    name: 'people',
    title: 'People',
    group: 'Team',
    path: '/people',
    who: 'all',
    component: () => import('./views/people/People.vue'),
  },
  {
    name: 'studio',
    title: 'Studio',
    group: 'Team',
    path: '/studio',
    who: 'owner',
    component: () => import('./views/studio/Studio.vue'),
  },
  {
    name: 'overview',
    title: 'Overview',
    group: 'Look back',
    path: '/overview',
    who: 'all',
    component: () => import('./views/overview/Overview.vue'),
  },
  {
    name: 'ledger',
    title: 'Ledger',
    group: 'Look back',
    path: '/ledger',
    who: 'all',
    component: () => import('./views/ledger/Ledger.vue'),
  },
  {
    name: 'attic',
    title: 'Attic',
    group: 'Look back',
    path: '/attic',
    who: 'editors',
    component: () => import('./views/attic/Attic.vue'),
  },
  {
    name: 'upkeep',
    title: 'Upkeep',
    group: 'Look back',
    path: '/upkeep',
    who: 'leads',
    component: () => import('./views/upkeep/Upkeep.vue'),
  },
] as const

/**
 * Every address names its library first, so that a link shows the same to everybody who may see it. One without a
 * library, as it was written down earlier, means the library that is looked at.
 */
export const router = createRouter({
  history: createWebHistory(),
  routes: [
    ...views.map(({ name, path, component }) => ({ name, path: `/:library(\\d+)${path}`, component })),
    { name: 'bench', path: '/:library(\\d+)/bench/:id(\\d+)', component: () => import('./views/bench/Bench.vue') },
    { name: 'compare', path: '/:library(\\d+)/compare', component: () => import('./views/compare/Compare.vue') },
    // Before anybody is in a library; App.vue shows them without the frame.
    { name: 'begin', path: '/begin', component: () => import('./views/signin/Begin.vue') },
    { name: 'invitation', path: '/invitation/:key', component: () => import('./views/signin/Invitation.vue') },
    // As it was written down earlier.
    { path: '/:library(\\d+)/order', redirect: { name: 'families' } },
    { name: 'nowhere', path: '/:library(\\d+)/:rest(.*)*', component: { render: () => null } },
    { name: 'anywhere', path: '/:rest(.*)*', component: { render: () => null } },
  ],
})

router.beforeEach((to) => {
  const session = useSession()
  // The form for signing in stands over any address.
  if (!session.person || !session.libraryId) return true
  if (to.name === 'anywhere') return `/${session.libraryId}${to.path === '/' ? '/wall' : to.fullPath}`
  const id = Number(to.params.library)
  if (session.libraries.some((library) => library.id === id)) session.look(id)
  return true
})
