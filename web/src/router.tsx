import {
  createRootRoute,
  createRoute,
  createRouter,
  Link,
  lazyRouteComponent,
  redirect,
  retainSearchParams,
} from '@tanstack/react-router';
import { Frame } from './band/Frame';
import { SHOWN } from './orders/words';
import { Empty, Fault, Screen } from './ui/parts';

const root = createRootRoute({
  component: Frame,
  // the as-of date goes along from screen to screen
  validateSearch: (search: Record<string, unknown>): { at?: string | undefined } =>
    typeof search['at'] === 'string' ? { at: search['at'] } : {},
  search: { middlewares: [retainSearchParams(['at'])] },
  errorComponent: ({ error }) => (
    <Screen>
      <Fault
        error={{
          title: 'This screen could not be shown',
          detail: error instanceof Error ? error.message : String(error),
        }}
      />
    </Screen>
  ),
  notFoundComponent: () => (
    <Screen>
      <Empty title="There is no such page.">
        <Link to="/today">Go to Today</Link>
      </Empty>
    </Screen>
  ),
});

const home = createRoute({
  getParentRoute: () => root,
  path: '/',
  beforeLoad: () => {
    redirect({ to: '/today', throw: true });
  },
});

const today = createRoute({
  getParentRoute: () => root,
  path: '/today',
  component: lazyRouteComponent(() => import('./today/Today'), 'Today'),
});

const team = createRoute({
  getParentRoute: () => root,
  path: '/team',
  component: lazyRouteComponent(() => import('./team/Team'), 'Team'),
});

const ownAccount = createRoute({
  getParentRoute: () => root,
  path: '/account',
  component: lazyRouteComponent(() => import('./team/OwnAccount'), 'OwnAccount'),
});

const policies = createRoute({
  getParentRoute: () => root,
  path: '/policies',
  component: lazyRouteComponent(() => import('./policies/Policies'), 'Policies'),
});

const exchange = createRoute({
  getParentRoute: () => root,
  path: '/exchange',
  component: lazyRouteComponent(() => import('./exchange/Exchange'), 'Exchange'),
});

const held = createRoute({
  getParentRoute: () => root,
  path: '/held',
  component: lazyRouteComponent(() => import('./held/Held'), 'Held'),
});

const MAPPING_VIEWS = ['by-source', 'by-target', 'catalogue', 'findings', 'history'] as const;

export type MappingView = (typeof MAPPING_VIEWS)[number];

function isMappingView(text: unknown): text is MappingView {
  return MAPPING_VIEWS.some((view) => view === text);
}

export interface MappingSearch {
  view?: MappingView;
  product?: string;
  course?: string;
  /** Which thing of the catalogue, as a path; `school` for the rules of the school. */
  thing?: string | undefined;
}

const mapping = createRoute({
  getParentRoute: () => root,
  path: '/mapping',
  validateSearch: (search: Record<string, unknown>): MappingSearch => ({
    ...(isMappingView(search['view']) && { view: search['view'] }),
    ...(typeof search['product'] === 'string' && { product: search['product'] }),
    ...(typeof search['course'] === 'string' && { course: search['course'] }),
    ...(typeof search['thing'] === 'string' && { thing: search['thing'] }),
  }),
  component: lazyRouteComponent(() => import('./mapping/Mapping'), 'Mapping'),
});

export const SORTS = ['NEWEST', 'NAME', 'OPEN', 'ENDS'] as const;

export interface PeopleSearch {
  q?: string | undefined;
  sort?: (typeof SORTS)[number];
  page?: number | undefined;
}

const people = createRoute({
  getParentRoute: () => root,
  path: '/people',
  validateSearch: (search: Record<string, unknown>): PeopleSearch => {
    const sort = SORTS.find((known) => known === search['sort']);
    const page = search['page'];
    const q = search['q'];
    return {
      ...((typeof q === 'string' || typeof q === 'number') && q !== '' && { q: String(q) }),
      ...(sort !== undefined && { sort }),
      ...(typeof page === 'number' && page > 0 && { page: Math.floor(page) }),
    };
  },
  component: lazyRouteComponent(() => import('./people/People'), 'People'),
});

const person = createRoute({
  getParentRoute: () => root,
  path: '/people/$id',
  validateSearch: (search: Record<string, unknown>): { target?: string } =>
    typeof search['target'] === 'string' ? { target: search['target'] } : {},
  component: lazyRouteComponent(() => import('./people/Person'), 'Person'),
});

const segments = createRoute({
  getParentRoute: () => root,
  path: '/people/segments',
  validateSearch: (search: Record<string, unknown>): { segment?: number } =>
    typeof search['segment'] === 'number' ? { segment: search['segment'] } : {},
  component: lazyRouteComponent(() => import('./segments/Segments'), 'Segments'),
});

export const SHOWN_KINDS = ['all', 'facts', 'troubles', 'operators'] as const;

export interface JournalSearch {
  /** Of whom alone. */
  person?: number | undefined;
  q?: string | undefined;
  show?: (typeof SHOWN_KINDS)[number];
}

export const ORDER_SORTS = ['NEWEST', 'TOTAL', 'NAME', 'DUE'] as const;

export interface OrdersSearch {
  q?: string | undefined;
  show?: (typeof SHOWN)[number];
  sort?: (typeof ORDER_SORTS)[number];
  product?: string | undefined;
  channel?: 'SHOP' | 'HAND' | undefined;
  from?: string | undefined;
  to?: string | undefined;
  page?: number | undefined;
}

const DAY = /^\d{4}-\d{2}-\d{2}$/;

function day(text: unknown): string | undefined {
  return typeof text === 'string' && DAY.test(text) ? text : undefined;
}

const orders = createRoute({
  getParentRoute: () => root,
  path: '/orders',
  validateSearch: (search: Record<string, unknown>): OrdersSearch => {
    const { q, page, product, channel } = search;
    const show = SHOWN.find((known) => known === search['show']);
    const sort = ORDER_SORTS.find((known) => known === search['sort']);
    const from = day(search['from']);
    const to = day(search['to']);
    return {
      ...((typeof q === 'string' || typeof q === 'number') && q !== '' && { q: String(q) }),
      ...(show !== undefined && { show }),
      ...(sort !== undefined && { sort }),
      ...(typeof product === 'string' && { product }),
      ...((channel === 'SHOP' || channel === 'HAND') && { channel }),
      ...(from !== undefined && { from }),
      ...(to !== undefined && { to }),
      ...(typeof page === 'number' && page > 0 && { page: Math.floor(page) }),
    };
  },
  component: lazyRouteComponent(() => import('./orders/Orders'), 'Orders'),
});

const orderByHand = createRoute({
  getParentRoute: () => root,
  path: '/orders/by-hand',
  validateSearch: (search: Record<string, unknown>): { person?: string } =>
    typeof search['person'] === 'string' ? { person: search['person'] } : {},
  component: lazyRouteComponent(() => import('./orders/ByHand'), 'ByHand'),
});

const quotes = createRoute({
  getParentRoute: () => root,
  path: '/quotes',
  component: lazyRouteComponent(() => import('./quotes/Quotes'), 'Quotes'),
});

const quote = createRoute({
  getParentRoute: () => root,
  path: '/quotes/$id',
  component: lazyRouteComponent(() => import('./quotes/Quote'), 'Quote'),
});

const order = createRoute({
  getParentRoute: () => root,
  path: '/orders/$id',
  component: lazyRouteComponent(() => import('./orders/Order'), 'Order'),
});

const journal = createRoute({
  getParentRoute: () => root,
  path: '/journal',
  validateSearch: (search: Record<string, unknown>): JournalSearch => {
    const show = SHOWN_KINDS.find((known) => known === search['show']);
    const q = search['q'];
    return {
      ...((typeof q === 'string' || typeof q === 'number') && q !== '' && { q: String(q) }),
      ...(show !== undefined && { show }),
      ...(typeof search['person'] === 'number' && { person: search['person'] }),
    };
  },
  component: lazyRouteComponent(() => import('./journal/Journal'), 'Journal'),
});

const systems = createRoute({
  getParentRoute: () => root,
  path: '/systems',
  component: lazyRouteComponent(() => import('./systems/Systems'), 'Systems'),
});

const addSystem = createRoute({
  getParentRoute: () => root,
  path: '/systems/add',
  component: lazyRouteComponent(() => import('./systems/AddSystem'), 'AddSystem'),
});

interface SystemSearch {
  view?: (typeof SYSTEM_VIEWS)[number];
  /** What alone is looked at, where it is out of step. */
  target?: string;
}

export const SYSTEM_VIEWS = ['queue', 'out-of-step', 'matching', 'settings'] as const;

const system = createRoute({
  getParentRoute: () => root,
  path: '/systems/$id',
  validateSearch: (search: Record<string, unknown>): SystemSearch => {
    const view = SYSTEM_VIEWS.find((known) => known === search['view']);
    return {
      ...(view !== undefined && { view }),
      ...(typeof search['target'] === 'string' && { target: search['target'] }),
    };
  },
  component: lazyRouteComponent(() => import('./systems/System'), 'System'),
});

export const router = createRouter({
  routeTree: root.addChildren([
    home,
    team,
    ownAccount,
    policies,
    exchange,
    held,
    today,
    mapping,
    orders,
    orderByHand,
    quotes,
    quote,
    order,
    people,
    person,
    segments,
    systems,
    addSystem,
    system,
    journal,
  ]),
  scrollRestoration: true,
});

declare module '@tanstack/react-router' {
  interface Register {
    router: typeof router;
  }
}
