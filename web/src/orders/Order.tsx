import { Link, useParams } from '@tanstack/react-router';
import { useState } from 'react';
import { api, type Schemas } from '../api/client';
import { useAsOf } from '../band/asOf';
import { isOpen } from '../people/states';
import { useMay } from '../session/may';
import { useSession } from '../session/session';
import { shownDate, shownTime } from '../ui/dates';
import { Fault, Margin, Screen, Waiting } from '../ui/parts';
import { exactMoney } from '../ui/words';
import { OrderAct, type OrderDeed } from './OrderAct';
import { Charge } from './Charge';
import { OrderState } from './OrderState';
import { Seats } from './Seats';
import { CHANNELS, TO_DO, type OrderShown } from './words';

type Line = Schemas['ShownLine'];

/** One order: its lines and what each opened, its money, and what can be done about it. */
export function Order() {
  const { id } = useParams({ from: '/orders/$id' });
  const asOf = useAsOf();
  const may = useMay();
  const [deed, setDeed] = useState<OrderDeed>();
  const order = api.useQuery(
    'get',
    '/api/orders/{id}',
    {
      params: { path: { id }, query: asOf.instant === undefined ? {} : { at: asOf.instant } },
    },
    {
      refetchInterval: asOf.instant === undefined ? 2_000 : false,
      placeholderData: (previous) => (previous?.id === id ? previous : undefined),
    },
  );
  const data = order.data;
  if (data === undefined) {
    return (
      <Screen>
        {order.error === null ? (
          <Waiting what="the order" />
        ) : (
          <>
            <Fault error={order.error} />
            <Link to="/orders">To all orders</Link>
          </>
        )}
      </Screen>
    );
  }
  const canAct = asOf.tense === 'now' && may.act;
  const doing = canAct ? deed : undefined;
  return (
    <Screen
      margin={
        <Margin label="What can be done">
          {doing !== undefined ? (
            <OrderAct
              key={JSON.stringify(doing)}
              order={data}
              deed={doing}
              onEnd={() => setDeed(undefined)}
            />
          ) : (
            <ToDo order={data} onDeed={may.act ? setDeed : undefined} now={asOf.tense === 'now'} />
          )}
        </Margin>
      }
    >
      <Head order={data} />
      {order.error !== null && <Fault error={order.error} />}
      <section aria-label="Lines">
        <h2>What it is for</h2>
        <div className="rows">
          {data.lines.map((line) => (
            <LineRow key={line.line} line={line} order={data} onDeed={canAct ? setDeed : undefined} />
          ))}
        </div>
      </section>
      <section>
        <h2>What happened</h2>
        <ol className="happened">
          {data.happened.map((event) => (
            <HappenedRow key={`${event.at} ${event.title}`} event={event} />
          ))}
        </ol>
      </section>
    </Screen>
  );
}

function HappenedRow({ event }: { event: Schemas['OrderEvent'] }) {
  const { zone } = useSession();
  return (
    <li>
      <time dateTime={event.at}>{shownTime(event.at, zone)}</time>
      <strong>{event.title}</strong>
      <span>{event.text}</span>
    </li>
  );
}

function Head({ order }: { order: OrderShown }) {
  const { zone } = useSession();
  return (
    <header className="person-head">
      <h1>Order {order.id}</h1>
      <p className="soft">
        <Link to="/people/$id" params={{ id: String(order.person) }}>
          {order.name}
        </Link>{' '}
        · {order.channel === 'HAND' ? 'entered by hand' : `from the ${CHANNELS.SHOP}`} on{' '}
        {shownDate(order.placedAt, zone)}
        {order.reason !== '' && ` · ${order.reason}`}
      </p>
      <div className="chips">
        <OrderState order={order} />
        {order.toDo
          .filter((one) => one !== 'PAYMENT')
          .map((one) => (
            <span key={one} className="pill pill-warn">
              {TO_DO[one]}
            </span>
          ))}
        {order.invoice !== undefined && <span className="chip">invoice {order.invoice}</span>}
        <dl className="sums">
          <Sum title="Total" amount={order.total} order={order} before={order.listTotal} />
          <Sum title="Paid" amount={order.paid} order={order} />
          {order.givenBack > 0 && <Sum title="Given back" amount={order.givenBack} order={order} />}
          {order.owed > 0 && <Sum title="Owed" amount={order.owed} order={order} />}
          {order.waived > 0 && <Sum title="Waived" amount={order.waived} order={order} />}
        </dl>
      </div>
      <Charge order={order.id} />
    </header>
  );
}

function Sum({
  title,
  amount,
  order,
  before,
}: {
  title: string;
  amount: number;
  order: OrderShown;
  before?: number | undefined;
}) {
  return (
    <div>
      <dt>{title}</dt>
      <dd>
        {before !== undefined && <s>{exactMoney(before, order.currency)}</s>}{' '}
        {exactMoney(amount, order.currency)}
      </dd>
    </div>
  );
}

function LineRow({
  line,
  order,
  onDeed,
}: {
  line: Line;
  order: OrderShown;
  onDeed: ((deed: OrderDeed) => void) | undefined;
}) {
  const { zone } = useSession();
  return (
    <div className="row order-line">
      <div className="row-words">
        <strong>
          {line.title}
          {line.option !== undefined && `, ${line.option}`} {line.quantity > 1 && `× ${line.quantity}`}
        </strong>
        {line.giftTo !== undefined && <span>a gift for {line.giftTo}</span>}
        {line.opens.map((opened) => (
          <span key={`${opened.target} ${opened.person} ${opened.start}`}>
            {isOpen(opened.state) ? 'opened ' : opened.state === 'SCHEDULED' ? 'will open ' : 'had opened '}
            {opened.title}
            {opened.sort !== 'course' && ` (${opened.sort})`}
            {opened.person !== order.person && ` for ${opened.name}`}, {shownDate(opened.start, zone)}
            {opened.end === undefined
              ? ' without an end'
              : opened.renews
                ? ' as long as it is paid for'
                : ` to ${shownDate(opened.end, zone)}`}
            {isOpen(opened.state) && opened.confirmation === 'WAITING' && (
              <em className="warn"> · told, not confirmed yet</em>
            )}
            {isOpen(opened.state) && opened.confirmation === 'REFUSED' && (
              <em className="bad"> · not confirmed: a system does not take it</em>
            )}
          </span>
        ))}
        {line.surplus > 0 && !order.cancelled && (
          <span>
            <em className="bad">
              {line.quantity} were paid for, and it opens once, however many are bought.
            </em>{' '}
            {onDeed !== undefined && (
              <>
                <button
                  className="link"
                  onClick={() =>
                    onDeed({
                      kind: 'REFUND',
                      line: line.line,
                      amount: part(line.amount, line.surplus, line.quantity),
                    })
                  }
                >
                  Give back {exactMoney(part(line.amount, line.surplus, line.quantity), order.currency)}
                </button>{' '}
                <Link className="link" to="/orders/by-hand">
                  Let somebody else in
                </Link>
              </>
            )}
          </span>
        )}
        {line.nothing !== undefined && <span className="soft">{line.nothing}</span>}
        <Seats line={line} order={order} onDeed={onDeed} />
        {line.dues.map((due) => (
          <span key={due.number}>
            payment {due.number}, {exactMoney(due.amount, order.currency)}, due {shownDate(due.due, zone)}:{' '}
            {due.paidAt !== undefined ? (
              `paid ${shownDate(due.paidAt, zone)}`
            ) : (
              <>
                {due.failedAt !== undefined
                  ? `failed ${shownDate(due.failedAt, zone)}`
                  : new Date(due.due) > new Date(order.asOf)
                    ? 'not due yet'
                    : 'missing'}{' '}
                {onDeed !== undefined && !order.cancelled && (
                  <button
                    className="link"
                    onClick={() => onDeed({ kind: 'PAY_INSTALMENT', line: line.line, number: due.number })}
                  >
                    Enter it
                  </button>
                )}
              </>
            )}
          </span>
        ))}
      </div>
      <span className="row-money">
        {line.listPrice !== undefined && <s>{exactMoney(line.listPrice, order.currency)}</s>}{' '}
        {exactMoney(line.amount, order.currency)}
      </span>
      {onDeed !== undefined &&
        (line.paid > line.givenBack || line.amount === 0) &&
        order.lines.length > 1 &&
        !order.cancelled && (
          <button className="btn btn-sm" onClick={() => onDeed({ kind: 'REFUND', line: line.line })}>
            {line.amount === 0 ? 'Take this back' : 'Refund this'}
          </button>
        )}
    </div>
  );
}

/** So many of a line's pieces in money, to the cent below. */
function part(amount: number, pieces: number, of: number): number {
  return Math.floor((Math.round(amount * 100) * pieces) / of) / 100;
}

function ToDo({
  order,
  onDeed,
  now,
}: {
  order: OrderShown;
  onDeed: ((deed: OrderDeed) => void) | undefined;
  now: boolean;
}) {
  const { zone } = useSession();
  if (!now) {
    return (
      <section>
        <h2>As it was on {shownDate(order.asOf, zone)}</h2>
        <p className="soft">Nothing can be changed on another day.</p>
      </section>
    );
  }
  const owes = order.owed > 0 && !order.cancelled;
  return (
    <section>
      <h2>{order.toDo.length === 0 ? 'Nothing is left to do' : 'What is left to do'}</h2>
      <ul className="plain">
        {owes && (
          <li>
            {exactMoney(order.owed, order.currency)} to be paid
            {order.payBy !== undefined && ` by ${shownDate(`${order.payBy}T12:00:00Z`, zone)}`}
          </li>
        )}
        {order.toDo.includes('FULFIL') && <li>to be sent, or marked as fulfilled</li>}
        {order.toDo.includes('CLAIM') && <li>a gift or seat that nobody has taken up</li>}
      </ul>
      {onDeed !== undefined && <Deeds order={order} onDeed={onDeed} />}
      {order.channel === 'SHOP' && (
        <p className="soft">
          The shop that sold it has books of its own: what is entered here counts for access, and the money
          itself is given back there.
        </p>
      )}
    </section>
  );
}

function Deeds({ order, onDeed }: { order: OrderShown; onDeed: (deed: OrderDeed) => void }) {
  const owes = order.owed > 0 && !order.cancelled;
  return (
    <div className="acts acts-column">
      {owes && order.paid === 0 && (
        <button className="btn btn-primary" onClick={() => onDeed({ kind: 'PAY' })}>
          Enter the payment
        </button>
      )}
      {owes && (
        <button className="btn" onClick={() => onDeed({ kind: 'INVOICE' })}>
          {order.invoice === undefined ? 'Note the invoice' : 'Note another invoice'}
        </button>
      )}
      {!order.fulfilled && !order.cancelled && (
        <button className="btn" onClick={() => onDeed({ kind: 'FULFIL' })}>
          Mark as fulfilled
        </button>
      )}
      {!order.cancelled && (order.paid > order.givenBack || order.total === 0) && (
        <button className="btn" onClick={() => onDeed({ kind: 'REFUND' })}>
          {order.total === 0 ? 'Take it back' : 'Refund'}
        </button>
      )}
      {!order.cancelled && (
        <button className="btn" onClick={() => onDeed({ kind: 'CANCEL' })}>
          Cancel
        </button>
      )}
    </div>
  );
}
