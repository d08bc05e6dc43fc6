import { Link, useNavigate, useSearch } from '@tanstack/react-router';
import { api, type Schemas } from '../api/client';
import { useAsOf } from '../band/asOf';
import { useOffer } from '../desk/offer';
import type { OrdersSearch } from './search';
import { useMay } from '../session/may';
import { useSession } from '../session/session';
import { shownDate } from '../ui/dates';
import { DayField } from '../ui/DayField';
import { Pages } from '../ui/Pages';
import { SearchField } from '../ui/SearchField';
import { counted, exactMoney } from '../ui/words';
import { UntakenNaming } from '../today/UntakenNaming';
import { OrderState } from './OrderState';
import { CHANNELS, SHOWN, SHOWN_WORDS, TO_DO, type ListedOrder } from './words';
import { DataTable, type Column } from '../ui/DataTable';
import { Acts, buttonLook, Empty, Fault, Headline, Screen, Select, Views, Waiting } from '../ui/kit';

/** Orders by what is left to do about them, with sums that are the rows'. */
export function Orders() {
  const search = useSearch({ from: '/orders' });
  const navigate = useNavigate({ from: '/orders' });
  const asOf = useAsOf();
  const { zone } = useSession();
  const may = useMay();
  const { show = 'ALL', sort = 'NEWEST', page = 0, q = '' } = search;
  const query = {
    q,
    show,
    sort,
    ...(search.product !== undefined && { product: search.product }),
    ...(search.channel !== undefined && { channel: search.channel }),
    ...(search.from !== undefined && { from: search.from }),
    ...(search.to !== undefined && { to: search.to }),
    ...(asOf.instant !== undefined && { at: asOf.instant }),
  };
  const orders = api.useQuery(
    'get',
    '/api/orders',
    { params: { query: { ...query, page } } },
    { placeholderData: (previous) => previous, refetchInterval: asOf.instant === undefined ? 5_000 : false },
  );
  const change = (next: OrdersSearch) =>
    void navigate({ search: (previous) => ({ ...previous, page: undefined, ...next }), replace: true });
  const data = orders.data;
  const filtered = q !== '' || Object.keys(query).length > (asOf.instant === undefined ? 3 : 4);
  return (
    <Screen>
      <Headline>
        <h1>Orders</h1>
        <SearchField
          label="Find by number, name, address or invoice"
          placeholder="Who, number or invoice"
          value={q}
          onChange={(words) => change({ q: words })}
        />
        <Acts>
          <a
            className={buttonLook({ small: true })}
            href={`/api/orders.csv?${new URLSearchParams(asText(query)).toString()}`}
          >
            As CSV
          </a>
          <Link to="/quotes" className={buttonLook({ small: true })}>
            Quotes
          </Link>
          {asOf.tense === 'now' && may.act && (
            <Link to="/orders/by-hand" className={buttonLook({ kind: 'main', small: true })}>
              Order by hand
            </Link>
          )}
        </Acts>
      </Headline>
      <div className="mb-3 flex flex-wrap items-center justify-between gap-2.5">
        <Views as="div" role="group" aria-label="What is left to do">
          {SHOWN.map((one) => (
            <button key={one} aria-pressed={show === one} onClick={() => change({ show: one })}>
              {SHOWN_WORDS[one]}
            </button>
          ))}
        </Views>
        <Narrow search={search} onChange={change} />
      </div>
      <UntakenNaming words={q} />
      {orders.error !== null && <Fault error={orders.error} />}
      {data === undefined && orders.error === null && <Waiting what="the orders" />}
      {data?.total === 0 && (
        <Empty title={filtered || show !== 'ALL' ? 'No order is like that.' : 'No order was placed yet.'}>
          <p>
            {filtered || show !== 'ALL'
              ? 'Take a filter away to see more.'
              : 'Orders appear when a connected shop reports one, or when one is entered by hand.'}
          </p>
        </Empty>
      )}
      {data !== undefined && data.total > 0 && (
        <>
          <DataTable
            name="orders"
            label="Orders"
            columns={columns(zone)}
            rows={data.orders}
            idOf={(order) => order.id}
            sort={sort}
            onSort={(next) => change({ sort: next })}
          >
            <Sums sums={data.sums} />
          </DataTable>
          <Pages
            total={data.total}
            pageSize={data.pageSize}
            page={page}
            onPage={(next) => change({ page: next })}
          />
        </>
      )}
    </Screen>
  );
}

function asText(query: Record<string, string>): Record<string, string> {
  return Object.fromEntries(Object.entries(query).filter(([, value]) => value !== ''));
}

function dayOrNone(day: string): string | undefined {
  return day === '' ? undefined : day;
}

function Narrow({ search, onChange }: { search: OrdersSearch; onChange: (next: OrdersSearch) => void }) {
  const offer = useOffer();
  return (
    <Acts className="items-center">
      <Select
        className="w-42"
        aria-label="Product"
        value={search.product ?? ''}
        onChange={(event) =>
          onChange({ product: event.target.value === '' ? undefined : event.target.value })
        }
      >
        <option value="">Any product</option>
        {offer?.products.map((product) => (
          <option key={product.id} value={product.id}>
            {product.title}
          </option>
        ))}
      </Select>
      <Select
        className="w-42"
        aria-label="Where from"
        value={search.channel ?? ''}
        onChange={(event) =>
          onChange({
            channel:
              event.target.value === 'SHOP' || event.target.value === 'HAND' ? event.target.value : undefined,
          })
        }
      >
        <option value="">Shop and by hand</option>
        <option value="SHOP">From a shop</option>
        <option value="HAND">By hand</option>
      </Select>
      <DayField
        inline
        label="From"
        value={search.from ?? ''}
        onChange={(from) => onChange({ from: dayOrNone(from) })}
      />
      <DayField
        inline
        label="To"
        value={search.to ?? ''}
        onChange={(to) => onChange({ to: dayOrNone(to) })}
      />
    </Acts>
  );
}

/** What all the orders that are listed come to, on every page of them. */
function Sums({ sums }: { sums: Schemas['OrderSum'][] }) {
  return sums.map((sum) => (
    <dl
      key={sum.currency}
      className="flex flex-wrap gap-x-6 gap-y-1 [&_dd]:font-bold [&_dt]:text-[0.82rem] [&_dt]:text-soft"
      aria-label={`Sums in ${sum.currency}`}
    >
      <Sum title={counted(sum.orders, 'order', 'orders')} amount={sum.total} currency={sum.currency} />
      <Sum title="Paid" amount={sum.paid} currency={sum.currency} />
      <Sum title="Given back" amount={sum.givenBack} currency={sum.currency} />
      <Sum title="Owed" amount={sum.owed} currency={sum.currency} />
      {sum.waived !== 0 && <Sum title="Waived" amount={sum.waived} currency={sum.currency} />}
    </dl>
  ));
}

function Sum({ title, amount, currency }: { title: string; amount: number; currency: string }) {
  return (
    <div>
      <dt>{title}</dt>
      <dd>{exactMoney(amount, currency)}</dd>
    </div>
  );
}

function columns(zone: string): Column<ListedOrder, NonNullable<OrdersSearch['sort']>>[] {
  return [
    {
      id: 'order',
      title: 'Order',
      always: true,
      show: (order) => (
        <Link to="/orders/$id" params={{ id: order.id }} className="font-semibold no-underline">
          {order.id}
        </Link>
      ),
    },
    {
      id: 'who',
      title: 'Who',
      sort: 'NAME',
      upwards: true,
      show: (order) => (
        <Link to="/people/$id" params={{ id: String(order.person) }}>
          {order.name}
        </Link>
      ),
    },
    { id: 'what', title: 'What', show: (order) => order.products.join(', ') },
    {
      id: 'placed',
      title: 'Placed',
      sort: 'NEWEST',
      show: (order) => (
        <span className="whitespace-nowrap">
          {shownDate(order.placedAt, zone)}
          {order.channel === 'HAND' && <span className="text-soft"> {CHANNELS.HAND}</span>}
        </span>
      ),
    },
    {
      id: 'total',
      title: 'Total',
      sort: 'TOTAL',
      number: true,
      show: (order) => exactMoney(order.total, order.currency),
    },
    {
      id: 'owed',
      title: 'Owed',
      sort: 'DUE',
      number: true,
      upwards: true,
      show: (order) => (order.owed === 0 ? '' : exactMoney(order.owed, order.currency)),
    },
    { id: 'standing', title: 'How it stands', show: (order) => <Standing order={order} /> },
  ];
}

function Standing({ order }: { order: ListedOrder }) {
  return (
    <span className="flex flex-wrap items-center gap-2">
      <OrderState order={order} />
      {!order.opened && !order.cancelled && <span className="text-soft">not opened</span>}
      {order.toDo
        .filter((one) => one !== 'PAYMENT')
        .map((one) => (
          <span key={one} className="text-warning">
            {TO_DO[one]}
          </span>
        ))}
    </span>
  );
}
