import {
  Brush,
  Download,
  History as HistoryIcon,
  LibraryBig,
  ListOrdered,
  Monitor,
  Package,
  PenTool,
  Share2,
  SlidersHorizontal,
  Upload,
} from '@lucide/vue'
import { createRouter, createWebHistory } from 'vue-router'
import { useSession } from './stores/session'

/** What stands on the rail, line by line; each opens the first of its views that a person may use. */
export const entries = [
  { name: 'brushes', title: 'Brushes', icon: Brush, line: 1 },
  { name: 'bench', title: 'Bench', icon: SlidersHorizontal, line: 1 },
  { name: 'tip-maker', title: 'Tip maker', icon: PenTool, line: 1 },
  { name: 'sets', title: 'Sets', icon: ListOrdered, line: 2 },
  { name: 'bundles', title: 'Bundles', icon: Package, line: 2 },
  { name: 'import', title: 'Import', icon: Download, line: 2 },
  { name: 'export', title: 'Export', icon: Upload, line: 2 },
  { name: 'desks', title: 'Desks', icon: Monitor, line: 3 },
  { name: 'sharing', title: 'Sharing', icon: Share2, line: 3 },
  { name: 'library', title: 'Library', icon: LibraryBig, line: 4 },
  { name: 'history', title: 'History', icon: HistoryIcon, line: 4 },
] as const
export type EntryName = (typeof entries)[number]['name']

/** Who may use a view. */
type Who = 'all' | 'editors' | 'leads' | 'owner'
interface View {
  name: string
  title: string
  /** Where it stands on the rail; those without are reached from the header. */
  entry?: EntryName
  path: string
  who: Who
  component: () => Promise<unknown>
}

/** The one list of views. Those of one entry are its tabs, in this order. */
export const views: readonly View[] = [
  view('brushes', 'All brushes', 'brushes', '/brushes', 'all', () => import('./views/brushes/Brushes.vue')),
  view(
    'duplicates',
    'Duplicates',
    'brushes',
    '/brushes/duplicates',
    'editors',
    () => import('./views/duplicates/Duplicates.vue'),
  ),
  view('hidden', 'Hidden', 'brushes', '/brushes/hidden', 'editors', () => import('./views/hidden/Hidden.vue')),
  view('drafts', 'Drafts', 'bench', '/bench', 'editors', () => import('./views/bench/Drafts.vue')),
  view('tip-maker', 'New tip', 'tip-maker', '/tip-maker', 'editors', () => import('./views/tipmaker/TipMaker.vue')),
  view('parts', 'Tips and grains', 'tip-maker', '/tip-maker/parts', 'editors', () => import('./views/parts/Parts.vue')),
  view('sets', 'Sets', 'sets', '/sets', 'all', () => import('./views/sets/Sets.vue')),
  view('bundles', 'Bundles', 'bundles', '/bundles', 'all', () => import('./views/bundles/Bundles.vue')),
  view('import', 'Files', 'import', '/import', 'editors', () => import('./views/import/Import.vue')),
  view(
    'gallery',
    'External gallery',
    'import',
    '/import/gallery',
    'editors',
    () => import('./views/import/Gallery.vue'),
  ),
  view('export', 'Past exports', 'export', '/export', 'all', () => import('./views/exports/Exports.vue')),
  view(
    'templates',
    'Export templates',
    'export',
    '/export/templates',
    'editors',
    () => import('./views/exportTemplates/ExportTemplates.vue'),
  ),
  view('desks', 'Desks', 'desks', '/desks', 'all', () => import('./views/desks/Desks.vue')),
  view(
    'proposals',
    'Proposals',
    'sharing',
    '/sharing/proposals',
    'all',
    () => import('./views/proposals/Proposals.vue'),
  ),
  view(
    'following',
    'Following',
    'sharing',
    '/sharing/following',
    'all',
    () => import('./views/following/Following.vue'),
  ),
  view(
    'versions',
    'Versions in use',
    'sharing',
    '/sharing/versions',
    'all',
    () => import('./views/following/WhoHasWhat.vue'),
  ),
  view('library', 'About', 'library', '/library', 'all', () => import('./views/library/Library.vue')),
  view('people', 'People', 'library', '/library/people', 'all', () => import('./views/people/People.vue')),
  view(
    'categories',
    'Categories and tags',
    'library',
    '/library/categories',
    'all',
    () => import('./views/categories/Categories.vue'),
  ),
  view('overview', 'Overview', 'library', '/library/overview', 'all', () => import('./views/overview/Overview.vue')),
  view('storage', 'Storage', 'library', '/library/storage', 'leads', () => import('./views/storage/Storage.vue')),
  view('history', 'History', 'history', '/history', 'all', () => import('./views/history/History.vue')),
  view('notifications', 'Notifications', undefined, '/notifications', 'all', () => import('./views/inbox/Inbox.vue')),
  view('studio', 'Studio', undefined, '/studio', 'owner', () => import('./views/studio/Studio.vue')),
]

function view(
  name: string,
  title: string,
  entry: EntryName | undefined,
  path: string,
  who: Who,
  component: View['component'],
): View {
  return { name, title, entry, path, who, component }
}

/** The entry of the rail that a route belongs to. */
export const entryOf = (name: unknown): EntryName | undefined =>
  name === 'bench' ? 'bench' : name === 'compare' ? 'brushes' : views.find((one) => one.name === name)?.entry

/**
 * Every address names its library first, so that a link shows the same to everybody who may see it. One without a
 * library, as it was written down earlier, means the library that is looked at.
 */
export const router = createRouter({
  history: createWebHistory(),
  routes: [
    ...views.map(({ name, path, component }) => ({ name, path: `/:library(\\d+)${path}`, component })),
    { name: 'bench', path: '/:library(\\d+)/bench/:id(\\d+)', component: () => import('./views/bench/Bench.vue') },
    {
      name: 'compare',
      path: '/:library(\\d+)/brushes/compare',
      component: () => import('./views/compare/Compare.vue'),
    },
    // Before anybody is in a library; App.vue shows them without the frame.
    { name: 'begin', path: '/begin', component: () => import('./views/signin/Begin.vue') },
    { name: 'invitation', path: '/invitation/:key', component: () => import('./views/signin/Invitation.vue') },
    { name: 'nowhere', path: '/:library(\\d+)/:rest(.*)*', component: { render: () => null } },
    { name: 'anywhere', path: '/:rest(.*)*', component: { render: () => null } },
  ],
})

router.beforeEach((to) => {
  const session = useSession()
  // The form for signing in stands over any address.
  if (!session.person || !session.libraryId) return true
  if (to.name === 'anywhere') return `/${session.libraryId}${to.path === '/' ? '/brushes' : to.fullPath}`
  const id = Number(to.params.library)
  if (session.libraries.some((library) => library.id === id)) session.look(id)
  return true
})
