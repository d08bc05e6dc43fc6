import { Link } from '@tanstack/react-router';
import { api } from '../api/client';
import { Decide, Follows } from '../held/deciding';
import { OrderAct, type OrderDeed } from '../orders/OrderAct';
import { Acts, Button, Fault, Waiting } from '../ui/kit';
import type { Doing } from './InPlace';

/** What follows from what is being done, and the act itself. */
export function DoingInMargin({ doing, onEnd }: { doing: Doing; onEnd: () => void }) {
  if ('held' in doing) {
    return (
      <>
        <Follows key={doing.held.about} one={doing.held} />
        <Acts>
          <Decide about={[doing.held.about]} onDone={onEnd} />
          <Button onClick={onEnd}>Not now</Button>
        </Acts>
      </>
    );
  }
  return <OrderDoing key={doing.order + doing.deed.kind} {...doing} onEnd={onEnd} />;
}

function OrderDoing({ order: id, deed, onEnd }: { order: string; deed: OrderDeed; onEnd: () => void }) {
  const order = api.useQuery('get', '/api/orders/{id}', { params: { path: { id } } });
  if (order.error !== null) return <Fault error={order.error} />;
  if (order.data === undefined) return <Waiting what="the order" />;
  return (
    <>
      <p className="text-soft">
        Order{' '}
        <Link to="/orders/$id" params={{ id }}>
          {id}
        </Link>{' '}
        of {order.data.name}
      </p>
      <OrderAct order={order.data} deed={deed} onEnd={onEnd} />
    </>
  );
}
