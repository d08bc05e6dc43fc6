import {
  createRootRoute,
  createRoute,
  createRouter,
  Link,
  lazyRouteComponent,
  redirect,
  retainSearchParams,
} from '@tanstack/react-router';
import * as z from 'zod';
import { Frame } from './band/Frame';
import { FOLLOWUPS_SEARCH } from './followups/search';
import { JOURNAL_SEARCH } from './journal/search';
import { MAPPING_SEARCH } from './mapping/search';
import { BY_HAND_SEARCH, ORDERS_SEARCH } from './orders/search';
import { PEOPLE_SEARCH, PERSON_SEARCH } from './people/search';
import { QUOTES_SEARCH } from './quotes/search';
import { REHEARSE_SEARCH } from './rehearse/search';
import { SEGMENTS_SEARCH } from './segments/search';
import { SYSTEM_SEARCH } from './systems/search';
import { DAY, present } from './ui/searchShape';
import { Empty, Fault, Screen } from './ui/kit';

const root = createRootRoute({
  component: Frame,
  // the as-of date goes along from screen to screen
  validateSearch: z.object({ at: DAY }).transform(present),
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

const school = createRoute({
  getParentRoute: () => root,
  path: '/school',
  component: lazyRouteComponent(() => import('./school/School'), 'School'),
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

const kit = createRoute({
  getParentRoute: () => root,
  path: '/kit',
  component: lazyRouteComponent(() => import('./kit/DemoOnly'), 'DemoOnly'),
});

const held = createRoute({
  getParentRoute: () => root,
  path: '/held',
  component: lazyRouteComponent(() => import('./held/Held'), 'Held'),
});

const mapping = createRoute({
  getParentRoute: () => root,
  path: '/mapping',
  validateSearch: MAPPING_SEARCH,
  component: lazyRouteComponent(() => import('./mapping/Mapping'), 'Mapping'),
});

const rehearse = createRoute({
  getParentRoute: () => root,
  path: '/rehearse',
  validateSearch: REHEARSE_SEARCH,
  component: lazyRouteComponent(() => import('./rehearse/Rehearse'), 'Rehearse'),
});

const followups = createRoute({
  getParentRoute: () => root,
  path: '/followups',
  validateSearch: FOLLOWUPS_SEARCH,
  component: lazyRouteComponent(() => import('./followups/Followups'), 'Followups'),
});

const people = createRoute({
  getParentRoute: () => root,
  path: '/people',
  validateSearch: PEOPLE_SEARCH,
  component: lazyRouteComponent(() => import('./people/People'), 'People'),
});

const person = createRoute({
  getParentRoute: () => root,
  path: '/people/$id',
  validateSearch: PERSON_SEARCH,
  component: lazyRouteComponent(() => import('./people/Person'), 'Person'),
});

const segments = createRoute({
  getParentRoute: () => root,
  path: '/people/segments',
  validateSearch: SEGMENTS_SEARCH,
  component: lazyRouteComponent(() => import('./segments/Segments'), 'Segments'),
});

const orders = createRoute({
  getParentRoute: () => root,
  path: '/orders',
  validateSearch: ORDERS_SEARCH,
  component: lazyRouteComponent(() => import('./orders/Orders'), 'Orders'),
});

const orderByHand = createRoute({
  getParentRoute: () => root,
  path: '/orders/by-hand',
  validateSearch: BY_HAND_SEARCH,
  component: lazyRouteComponent(() => import('./orders/ByHand'), 'ByHand'),
});

const quotes = createRoute({
  getParentRoute: () => root,
  path: '/quotes',
  validateSearch: QUOTES_SEARCH,
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

const invoice = createRoute({
  getParentRoute: () => root,
  path: '/orders/$id/invoice',
  component: lazyRouteComponent(() => import('./orders/Invoice'), 'Invoice'),
});

const journal = createRoute({
  getParentRoute: () => root,
  path: '/journal',
  validateSearch: JOURNAL_SEARCH,
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

const system = createRoute({
  getParentRoute: () => root,
  path: '/systems/$id',
  validateSearch: SYSTEM_SEARCH,
  component: lazyRouteComponent(() => import('./systems/System'), 'System'),
});

export const router = createRouter({
  routeTree: root.addChildren([
    home,
    team,
    ownAccount,
    policies,
    school,
    exchange,
    held,
    kit,
    today,
    mapping,
    followups,
    rehearse,
    orders,
    orderByHand,
    quotes,
    quote,
    order,
    invoice,
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
