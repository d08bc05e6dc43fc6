import { Link, useNavigate, useSearch } from '@tanstack/react-router';
import { api, type Schemas } from '../api/client';
import { useAsOf } from '../band/asOf';
import { useOffer } from '../desk/offer';
import type { OrdersSearch } from '../router';
import { useMay } from '../session/may';
import { useSession } from '../session/session';
import { shownDate } from '../ui/dates';
import { DayField } from '../ui/DayField';
import { Pages } from '../ui/Pages';
import { SortedHead, type Column } from '../ui/SortedHead';
import { Empty, Fault, Screen, Waiting } from '../ui/parts';
import { SearchField } from '../ui/SearchField';
import { counted, exactMoney } from '../ui/words';
import { UntakenNaming } from '../today/UntakenNaming';
import { OrderState } from './OrderState';
import { CHANNELS, SHOWN, SHOWN_WORDS, TO_DO, type ListedOrder } from './words';

/** Orders by what is left to do about them, with sums that are the rows'. */
export function Orders() {
  const search = useSearch({ from: '/orders' });
  const navigate = useNavigate({ from: '/orders' });
  const asOf = useAsOf();
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
      <div className="headline headline-wide">
        <h1>Orders</h1>
        <SearchField
          label="Find by number, name, address or invoice"
          placeholder="Who, number or invoice"
          value={q}
          onChange={(words) => change({ q: words })}
        />
        <div className="acts">
          <a className="btn btn-sm" href={`/api/orders.csv?${new URLSearchParams(asText(query)).toString()}`}>
            As CSV
          </a>
          <Link to="/quotes" className="btn btn-sm">
            Quotes
          </Link>
          {asOf.tense === 'now' && may.act && (
            <Link to="/orders/by-hand" className="btn btn-primary btn-sm">
              Order by hand
            </Link>
          )}
        </div>
      </div>
      <div className="filters">
        <div className="views" role="group" aria-label="What is left to do">
          {SHOWN.map((one) => (
            <button key={one} aria-pressed={show === one} onClick={() => change({ show: one })}>
              {SHOWN_WORDS[one]}
            </button>
          ))}
        </div>
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
          <Sums sums={data.sums} />
          <Table orders={data.orders} sort={sort} onSort={(next) => change({ sort: next })} />
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
    <div className="acts acts-line">
      <select
        className="select"
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
      </select>
      <select
        className="select"
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
      </select>
      <DayField
        label="From"
        value={search.from ?? ''}
        onChange={(from) => onChange({ from: dayOrNone(from) })}
      />
      <DayField label="To" value={search.to ?? ''} onChange={(to) => onChange({ to: dayOrNone(to) })} />
    </div>
  );
}

interface TableProps {
  orders: ListedOrder[];
  sort: NonNullable<OrdersSearch['sort']>;
  onSort: (sort: NonNullable<OrdersSearch['sort']>) => void;
}

/** What all the orders that are listed come to, on every page of them. */
function Sums({ sums }: { sums: Schemas['OrderSum'][] }) {
  return sums.map((sum) => (
    <dl key={sum.currency} className="sums sums-line" aria-label={`Sums in ${sum.currency}`}>
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

const COLUMNS: Column<NonNullable<OrdersSearch['sort']>>[] = [
  { title: 'Order' },
  { title: 'Who', sort: 'NAME', upwards: true },
  { title: 'What' },
  { title: 'Placed', sort: 'NEWEST' },
  { title: 'Total', sort: 'TOTAL', number: true },
  { title: 'Owed', sort: 'DUE', number: true, upwards: true },
  { title: 'How it stands' },
];

function Table({ orders, sort, onSort }: TableProps) {
  const { zone } = useSession();
  return (
    <table className="list orders">
      <SortedHead columns={COLUMNS} sort={sort} onSort={onSort} />
      <tbody>
        {orders.map((order) => (
          <tr key={order.id}>
            <td>
              <Link to="/orders/$id" params={{ id: order.id }}>
                {order.id}
              </Link>
            </td>
            <td>
              <Link to="/people/$id" params={{ id: String(order.person) }}>
                {order.name}
              </Link>
            </td>
            <td className="what">{order.products.join(', ')}</td>
            <td>
              {shownDate(order.placedAt, zone)}
              {order.channel === 'HAND' && <span className="soft"> {CHANNELS.HAND}</span>}
            </td>
            <td className="number">{exactMoney(order.total, order.currency)}</td>
            <td className="number">{order.owed === 0 ? '' : exactMoney(order.owed, order.currency)}</td>
            <td>
              <Standing order={order} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Standing({ order }: { order: ListedOrder }) {
  return (
    <span className="standing">
      <OrderState order={order} />
      {!order.opened && !order.cancelled && <span className="soft">not opened</span>}
      {order.toDo
        .filter((one) => one !== 'PAYMENT')
        .map((one) => (
          <span key={one} className="warn">
            {TO_DO[one]}
          </span>
        ))}
    </span>
  );
}
