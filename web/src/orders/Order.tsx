import { Link, useParams } from '@tanstack/react-router';
import { useState } from 'react';
import { api, type Schemas } from '../api/client';
import { useAsOf } from '../band/asOf';
import { isOpen } from '../people/states';
import { FollowupsOfOrder } from '../followups/OfPerson';
import { useMay } from '../session/may';
import { useSession } from '../session/session';
import { shownDate, shownTime } from '../ui/dates';
import { exactMoney } from '../ui/words';
import { OrderAct, type OrderDeed } from './OrderAct';
import { Charge } from './Charge';
import { OrderState } from './OrderState';
import { Seats } from './Seats';
import { CHANNELS, TO_DO, type OrderShown } from './words';
import {
  Acts,
  Badge,
  Button,
  buttonLook,
  Chip,
  Events,
  Fault,
  Margin,
  Row,
  Rows,
  RowWords,
  Screen,
  TextButton,
  Waiting,
} from '../ui/kit';

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
        <Rows as="div">
          {data.lines.map((line) => (
            <LineRow key={line.line} line={line} order={data} onDeed={canAct ? setDeed : undefined} />
          ))}
        </Rows>
      </section>
      <FollowupsOfOrder order={data.id} />
      <section>
        <h2>What happened</h2>
        <Events>
          {data.happened.map((event) => (
            <HappenedRow key={`${event.at} ${event.title}`} event={event} />
          ))}
        </Events>
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
    <header>
      <Link
        className={`${buttonLook({ small: true })} float-right`}
        to="/orders/$id/invoice"
        params={{ id: order.id }}
      >
        As an invoice
      </Link>
      <h1>Order {order.id}</h1>
      <p className="text-soft">
        <Link to="/people/$id" params={{ id: String(order.person) }}>
          {order.name}
        </Link>{' '}
        · {order.channel === 'HAND' ? 'entered by hand' : `from the ${CHANNELS.SHOP}`} on{' '}
        {shownDate(order.placedAt, zone)}
        {order.reason !== '' && ` · ${order.reason}`}
      </p>
      <div className="mt-2.5 mb-3.5 flex flex-wrap items-center gap-2">
        <OrderState order={order} />
        {order.toDo
          .filter((one) => one !== 'PAYMENT')
          .map((one) => (
            <Badge tone="warn" key={one}>
              {TO_DO[one]}
            </Badge>
          ))}
        {order.invoice !== undefined && <Chip>invoice {order.invoice}</Chip>}
        <dl className="ml-auto flex flex-wrap gap-5 [&_dd]:font-bold [&_dt]:text-[0.82rem] [&_dt]:text-soft [&_s]:text-soft">
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
    <Row as="div" className="items-start">
      <RowWords>
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
              <em className="text-warning"> · told, not confirmed yet</em>
            )}
            {isOpen(opened.state) && opened.confirmation === 'REFUSED' && (
              <em className="text-error"> · not confirmed: a system does not take it</em>
            )}
          </span>
        ))}
        {line.surplus > 0 && !order.cancelled && (
          <span>
            <em className="text-error">
              {line.quantity} were paid for, and it opens once, however many are bought.
            </em>{' '}
            {onDeed !== undefined && (
              <>
                <TextButton
                  onClick={() =>
                    onDeed({
                      kind: 'REFUND',
                      line: line.line,
                      amount: part(line.amount, line.surplus, line.quantity),
                    })
                  }
                >
                  Give back {exactMoney(part(line.amount, line.surplus, line.quantity), order.currency)}
                </TextButton>{' '}
                <Link className="link" to="/orders/by-hand">
                  Let somebody else in
                </Link>
              </>
            )}
          </span>
        )}
        {line.nothing !== undefined && <span className="text-soft">{line.nothing}</span>}
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
                  <TextButton
                    onClick={() => onDeed({ kind: 'PAY_INSTALMENT', line: line.line, number: due.number })}
                  >
                    Enter it
                  </TextButton>
                )}
              </>
            )}
          </span>
        ))}
      </RowWords>
      <span className="font-semibold whitespace-nowrap">
        {line.listPrice !== undefined && <s>{exactMoney(line.listPrice, order.currency)}</s>}{' '}
        {exactMoney(line.amount, order.currency)}
      </span>
      {onDeed !== undefined &&
        (line.paid > line.givenBack || line.amount === 0) &&
        order.lines.length > 1 &&
        !order.cancelled && (
          <Button small onClick={() => onDeed({ kind: 'REFUND', line: line.line })}>
            {line.amount === 0 ? 'Take this back' : 'Refund this'}
          </Button>
        )}
    </Row>
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
        <p className="text-soft">Nothing can be changed on another day.</p>
      </section>
    );
  }
  const owes = order.owed > 0 && !order.cancelled;
  return (
    <section>
      <h2>{order.toDo.length === 0 ? 'Nothing is left to do' : 'What is left to do'}</h2>
      <ul className="mt-1">
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
        <p className="text-soft">
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
    <Acts className="my-3 flex-col items-stretch">
      {owes && order.paid === 0 && (
        <Button kind="main" onClick={() => onDeed({ kind: 'PAY' })}>
          Enter the payment
        </Button>
      )}
      {owes && (
        <Button onClick={() => onDeed({ kind: 'INVOICE' })}>
          {order.invoice === undefined ? 'Note the invoice' : 'Note another invoice'}
        </Button>
      )}
      {!order.fulfilled && !order.cancelled && (
        <Button onClick={() => onDeed({ kind: 'FULFIL' })}>Mark as fulfilled</Button>
      )}
      {!order.cancelled && (order.paid > order.givenBack || order.total === 0) && (
        <Button onClick={() => onDeed({ kind: 'REFUND' })}>
          {order.total === 0 ? 'Take it back' : 'Refund'}
        </Button>
      )}
      {!order.cancelled && <Button onClick={() => onDeed({ kind: 'CANCEL' })}>Cancel</Button>}
    </Acts>
  );
}
