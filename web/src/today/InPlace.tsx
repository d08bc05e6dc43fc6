import { Link } from '@tanstack/react-router';
import { api } from '../api/client';
import type { Case } from '../held/deciding';
import type { OrderDeed } from '../orders/OrderAct';
import { exactMoney } from '../ui/words';
import { TextButton } from '../ui/kit';

/** So many of a list are shown where they can be dealt with at once. */
const FIRST = 3;

/** What is being done on Today, shown in the margin with its consequence. */
export type Doing = { order: string; deed: OrderDeed } | { held: Case };

const SHORT =
  'grid gap-1 border-t border-line py-1.5 pr-3.5 pl-10 [&>li]:flex [&>li]:flex-wrap [&>li]:items-center [&>li]:gap-x-3';

interface OrdersProps {
  show: 'OVERDUE' | 'FULFIL';
  onAct: (doing: Doing) => void;
}

const DEEDS = {
  OVERDUE: { kind: 'PAY', words: 'It was paid', sort: 'DUE' },
  FULFIL: { kind: 'FULFIL', words: 'It is done', sort: 'NEWEST' },
} as const;

/** The first orders of a sort, each with the one act that it waits for. */
export function OrdersInPlace({ show, onAct }: OrdersProps) {
  const { kind, words, sort } = DEEDS[show];
  const orders = api.useQuery(
    'get',
    '/api/orders',
    { params: { query: { show, sort, page: 0 } } },
    { refetchInterval: 10_000 },
  );
  if (orders.data === undefined) return null;
  return (
    <ul className={SHORT}>
      {orders.data.orders.slice(0, FIRST).map((order) => (
        <li key={order.id}>
          <Link to="/orders/$id" params={{ id: order.id }}>
            {order.id}
          </Link>
          <span>{order.name}</span>
          <span className="min-w-0 flex-1 truncate text-soft">{order.products.join(', ')}</span>
          {show === 'OVERDUE' && <span>{exactMoney(order.owed, order.currency)}</span>}
          <TextButton
            aria-label={`${words}: order ${order.id} of ${order.name}`}
            onClick={() => onAct({ order: order.id, deed: { kind } })}
          >
            {words}
          </TextButton>
        </li>
      ))}
    </ul>
  );
}

/** The first of those who are held, each to be let in. */
export function HeldInPlace({ onAct }: { onAct: (doing: Doing) => void }) {
  const held = api.useQuery('get', '/api/held', undefined, { refetchInterval: 10_000 });
  const guests = (held.data?.cases ?? []).filter(({ why }) => why === 'GUEST');
  if (guests.length === 0) return null;
  return (
    <ul className={SHORT}>
      {guests.slice(0, FIRST).map((one) => (
        <li key={one.about}>
          <span>{one.name}</span>
          <span className="min-w-0 flex-1 truncate text-soft">{firstReport(one)}</span>
          <TextButton aria-label={`Let ${one.name} in`} onClick={() => onAct({ held: one })}>
            Let in
          </TextButton>
        </li>
      ))}
    </ul>
  );
}

function firstReport({ reports: [first] }: Case): string {
  return first?.text === '' ? first.title : (first?.text ?? '');
}
