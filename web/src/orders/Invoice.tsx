import { Link, useParams } from '@tanstack/react-router';
import { api } from '../api/client';
import { useSession } from '../session/session';
import { shownDate, shownDay, readDay } from '../ui/dates';
import { Addressee, ItemLines, itemsInWords, mailTo, SumLine } from '../ui/Items';
import { PrintButton } from '../ui/PrintButton';
import { exactMoney } from '../ui/words';
import type { OrderShown } from './words';
import { Acts, buttonLook, Fault, Headline, Screen, Waiting } from '../ui/kit';

const MOVED: Record<OrderShown['money'][number]['kind'], string> = {
  PAID: 'paid on',
  GIVEN_BACK: 'given back on',
  WAIVED: 'no longer to be paid, since',
};

/** An order as an invoice: to print, to save as PDF, to write to them with. */
export function Invoice() {
  const { id } = useParams({ from: '/orders/$id/invoice' });
  const order = api.useQuery('get', '/api/orders/{id}', { params: { path: { id } } });
  const data = order.data;
  if (data === undefined) {
    return (
      <Screen>
        {order.error === null ? <Waiting what="the order" /> : <Fault error={order.error} />}
        <Link to="/orders">To all orders</Link>
      </Screen>
    );
  }
  return <Sheet order={data} />;
}

function Sheet({ order }: { order: OrderShown }) {
  const { school, zone } = useSession();
  const { currency, lines } = order;
  const title = order.invoice === undefined ? `Order ${order.id}` : `Invoice ${order.invoice}`;
  const by = dayInWords(order.payBy);
  return (
    <Screen>
      <Headline>
        <h1>{title}</h1>
        {order.invoice === undefined && <p>no invoice number was entered yet</p>}
        <Acts>
          <Link className={buttonLook({ small: true })} to="/orders/$id" params={{ id: order.id }}>
            The order
          </Link>
          <a
            className={buttonLook({ small: true })}
            href={mailTo(order.key, `${title}, ${school}`, [
              `Hello ${order.name},`,
              '',
              ...itemsInWords(lines, order.total, currency),
              ...(order.owed > 0
                ? [`To be paid: ${exactMoney(order.owed, currency)}${by === '' ? '' : ` by ${by}`}`]
                : []),
              '',
              school,
            ])}
          >
            Write to them
          </a>
          <PrintButton />
        </Acts>
      </Headline>
      <div className="max-w-3xl">
        <p className="text-lg font-semibold">{school}</p>
        <Addressee word="To" name={order.name} address={order.key} />
        <p className="text-soft">
          Order {order.id} of {shownDate(order.placedAt, zone)}
          {by !== '' && order.owed > 0 && `, to be paid by ${by}`}
        </p>
        <ItemLines lines={lines} currency={currency} />
        <SumLine strong words="Total" amount={order.total} currency={currency} />
        {order.money.map((moved) => (
          <SumLine
            key={`${moved.at} ${moved.kind}`}
            words={`${MOVED[moved.kind]} ${shownDate(moved.at, zone)}`}
            amount={moved.amount}
            currency={currency}
          />
        ))}
        <SumLine
          words={order.owed > 0 ? 'to be paid' : 'nothing is left to be paid'}
          amount={order.owed}
          currency={currency}
        />
      </div>
    </Screen>
  );
}

function dayInWords(day: string | undefined): string {
  const read = readDay(day);
  return read === undefined ? '' : shownDay(read);
}
