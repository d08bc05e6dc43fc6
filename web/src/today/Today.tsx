import { Link } from '@tanstack/react-router';
import { Fragment, lazy, Suspense, useState, type ReactNode } from 'react';
import { api, type Schemas } from '../api/client';
import { useTouch } from '../api/touch';
import { useNow } from '../band/useNow';
import { useMay } from '../session/may';
import { useSession } from '../session/session';
import { FollowupsOnToday } from '../followups/OnToday';
import { dayOf, fromNow, shownWeekday } from '../ui/dates';
import { idIn } from '../mapping/paths';
import { isAboutDoor, isAboutFollowup, placeOf } from '../mapping/sorts';
import { counted } from '../ui/words';
import { FirstSteps } from './FirstSteps';
import { Since, SystemsHealth } from './Health';
import { HeldInPlace, OrdersInPlace, type Doing } from './InPlace';
import {
  Button,
  buttonLook,
  Empty,
  Fault,
  Headline,
  Margin,
  Mark,
  Row,
  RowActs,
  Rows,
  RowWords,
  Screen,
  Sections,
  Waiting,
} from '../ui/kit';

/** Fetched when somebody begins: it brings all the forms of the desk. */
const DoingInMargin = lazy(() =>
  import('./DoingInMargin').then((found) => ({ default: found.DoingInMargin })),
);

type TodayData = Schemas['Today'];

/** What needs a person now. */
export function Today() {
  const { zone } = useSession();
  const { setUp } = useMay();
  const now = useNow(5_000);
  const today = api.useQuery('get', '/api/today', undefined, { refetchInterval: 5_000 });
  const data = today.data;
  const [doing, setDoing] = useState<Doing>();
  const isNew = data !== undefined && data.lastSale === undefined && setUp;
  return (
    <Screen
      margin={
        <Margin label="How things stand">
          {doing !== undefined && (
            <Suspense fallback={<Waiting what="what follows" />}>
              <DoingInMargin doing={doing} onEnd={() => setDoing(undefined)} />
            </Suspense>
          )}
          {data !== undefined && (
            <>
              <Since since={data.sinceYesterday} />
              <SystemsHealth systems={data.systems} outOfStep={data.outOfStep} now={now} />
            </>
          )}
        </Margin>
      }
    >
      <Headline>
        <h1>Today</h1>
        <p>
          {shownWeekday(dayOf(new Date(now), zone))}
          {data?.lastSale !== undefined && ` · last sale ${fromNow(data.lastSale, now)}`}
        </p>
      </Headline>
      {today.error !== null && <Fault error={today.error} />}
      {data === undefined ? (
        today.error === null && <Waiting what="what needs you" />
      ) : (
        <>
          {isNew && <FirstSteps systems={data.systems} />}
          <Lists data={data} isNew={isNew} now={now} onAct={setDoing} />
        </>
      )}
    </Screen>
  );
}

function Lists({
  data,
  isNew,
  now,
  onAct,
}: {
  data: TodayData;
  isNew: boolean;
  now: number;
  onAct: (doing: Doing) => void;
}) {
  // what only somebody else can put right is on their list
  const { setUp, act } = useMay();
  const findings = data.findings.filter((finding) => setUp || isAboutOrder(finding));
  const outOfStep = setUp ? data.outOfStep : [];
  const shownOtherwise = setUp ? data.shownOtherwise : [];
  const rehearsals = setUp ? data.rehearsals : [];
  const isWaiting = (finding: Schemas['ShownFinding']) =>
    finding.kind === 'UNKNOWN_PRODUCT' || isAboutOrder(finding);
  const waiting = findings.filter(isWaiting);
  const gaps = findings.filter((finding) => !isWaiting(finding));
  const stuck = setUp ? data.stuck : [];
  const unopened = data.untried.length + data.untaken.length + data.refused.length;
  const somebody = unopened + data.failing.length + waiting.length + data.held.guests + data.held.unknown;
  if (
    unopened +
      data.failing.length +
      outOfStep.length +
      shownOtherwise.length +
      rehearsals.length +
      stuck.length +
      findings.length +
      data.endingSoon +
      data.orders.overdue +
      data.orders.toFulfil +
      data.orders.unclaimed +
      data.held.guests +
      data.held.unknown ===
    0
  ) {
    return (
      <>
        {!isNew && (
          <Empty title="Nothing needs you now.">
            <p>Every system has what it should have, and the mapping has no gaps.</p>
          </Empty>
        )}
        <Sections>
          <FollowupsOnToday now={now} />
        </Sections>
      </>
    );
  }
  return (
    <Sections className="-mt-5">
      {somebody > 0 && (
        <List title="Somebody is waiting">
          {data.failing.map((failing) => (
            <FailingRow key={failing.connection} failing={failing} now={now} />
          ))}
          <UnopenedRows data={data} now={now} setUp={setUp} />
          <HeldRows held={data.held}>{act && <HeldInPlace onAct={onAct} />}</HeldRows>
          {waiting.map((finding) => (
            <FindingRow key={finding.kind + finding.subject} finding={finding} />
          ))}
        </List>
      )}
      <FollowupsOnToday now={now} />
      <WaitingOrders orders={data.orders} onAct={act ? onAct : undefined} />
      {outOfStep.length + shownOtherwise.length > 0 && (
        <List title="Systems are out of step">
          {outOfStep.map((one) => (
            <OutOfStepRow key={one.connection} one={one} />
          ))}
          {shownOtherwise.map((one) => (
            <Row key={`shown ${one.connection}`}>
              <RowWords>
                <strong>
                  {one.system} does not show what it should at {counted(one.places, 'place', 'places')}
                </strong>
                <span>{one.says ?? 'somebody has changed what people read there'}</span>
              </RowWords>
              <Link
                className={buttonLook()}
                to="/systems/$id"
                params={{ id: one.connection }}
                search={{ view: 'shown' }}
              >
                Look at it
              </Link>
            </Row>
          ))}
        </List>
      )}
      {rehearsals.length > 0 && (
        <List title="Not as rehearsed">
          {rehearsals.map((one) => (
            <Row key={one.id}>
              <RowWords>
                <strong>{one.title}</strong>
                <span>{one.says}</span>
              </RowWords>
              <Link className={buttonLook()} to="/rehearse" search={{ which: one.id }}>
                Look at it
              </Link>
            </Row>
          ))}
        </List>
      )}
      {stuck.length > 0 && (
        <List title="Work of Yoru’s own fails">
          {stuck.map((work) => (
            <StuckRow key={`${work.task} ${work.id}`} work={work} now={now} />
          ))}
        </List>
      )}
      {gaps.length > 0 && (
        <List title="The mapping has gaps">
          {gaps.map((finding) => (
            <FindingRow key={finding.kind + finding.subject} finding={finding} />
          ))}
        </List>
      )}
      {data.endingSoon > 0 && (
        <List title="Coming up">
          <Waits
            mark="later"
            title={`${counted(data.endingSoon, 'person loses', 'people lose')} something within 14 days`}
            text="their time is up, and nothing else keeps it open"
            people={data.endingSoon}
          >
            <Link className={buttonLook()} to="/people" search={{ sort: 'ENDS' }}>
              See who
            </Link>
          </Waits>
        </List>
      )}
    </Sections>
  );
}

/** Something that only ever fails; the server's log says why. */
function StuckRow({ work, now }: { work: Schemas['Stuck']; now: number }) {
  const touch = useTouch();
  const again = api.useMutation('post', '/api/today/work/again', { onSettled: () => touch('findings') });
  return (
    <Row>
      <RowWords>
        <strong>
          {work.what}: failed {work.failures} times
        </strong>
        <span>
          {work.lastFailure !== undefined && `last ${fromNow(work.lastFailure, now)} · `}
          {work.stopped
            ? 'it is not tried again before you say so; the server’s log says why it failed'
            : 'it is tried again every ten minutes; the server’s log says why it fails'}
        </span>
        {again.error !== null && <Fault error={again.error} />}
      </RowWords>
      {work.stopped && (
        <Button
          disabled={again.isPending}
          onClick={() => again.mutate({ body: { task: work.task, id: work.id } })}
        >
          Try it again
        </Button>
      )}
    </Row>
  );
}

/** A sale that opened nothing may be behind each of these, though no system says that it fails. */
function UnopenedRows({ data, now, setUp }: { data: TodayData; now: number; setUp: boolean }) {
  return (
    <>
      {data.refused.map((charge) => (
        <Waits
          key={charge.order}
          mark="grave"
          title={`${charge.system} refused to charge ${charge.person}`}
          text={`order ${charge.order}: ${charge.said}`}
        >
          <Link className={buttonLook({ kind: 'main' })} to="/orders/$id" params={{ id: charge.order }}>
            Look
          </Link>
        </Waits>
      ))}
      {data.untaken.map((reports) => (
        <Waits
          key={reports.connection}
          mark="grave"
          title={`${counted(reports.many, 'report', 'reports')} of ${reports.system} could not be taken up`}
          text={`a sale may be among them; the latest: ${reports.said}`}
        >
          {setUp && (
            <Link
              className={buttonLook({ kind: 'main' })}
              to="/systems/$id"
              params={{ id: reports.connection }}
              search={{ view: 'matching' }}
            >
              Look
            </Link>
          )}
        </Waits>
      ))}
      {data.untried.map((one) => (
        <Waits
          key={one.connection}
          mark="grave"
          title={`${one.system} is told nothing, though nothing fails`}
          text={`${counted(one.many, 'thing waits', 'things wait')} since ${fromNow(one.since, now)}; the server's log may say why`}
        >
          {setUp && (
            <Link className={buttonLook()} to="/systems/$id" params={{ id: one.connection }}>
              Look
            </Link>
          )}
        </Waits>
      ))}
    </>
  );
}

/** What becomes a fact only when somebody lets it in. */
function HeldRows({ held, children }: { held: TodayData['held']; children: ReactNode }) {
  return (
    <>
      {held.guests > 0 && (
        <Waits
          mark="grave"
          title={counted(held.guests, 'order by a guest is held', 'orders by guests are held')}
          text="bought without an account; nothing opens until somebody lets them in"
          people={held.guests}
        >
          <Link className={buttonLook({ kind: 'main' })} to="/held">
            Look
          </Link>
        </Waits>
      )}
      {held.guests > 0 && children !== false && <li>{children}</li>}
      {held.unknown > 0 && (
        <Waits
          mark="soon"
          title={`Reports about ${counted(held.unknown, 'unknown person', 'unknown people')} are held`}
          text="a tag, level or finished course, or a payment whose order has not come"
          people={held.unknown}
        >
          <Link className={buttonLook()} to="/held">
            Look
          </Link>
        </Waits>
      )}
    </>
  );
}

/** Orders about which somebody has something to do. */
function WaitingOrders({
  orders,
  onAct,
}: {
  orders: TodayData['orders'];
  /** None = one may only look. */
  onAct: ((doing: Doing) => void) | undefined;
}) {
  const rows = [
    {
      show: 'OVERDUE' as const,
      many: orders.overdue,
      mark: 'grave' as const,
      title: counted(orders.overdue, 'order is overdue', 'orders are overdue'),
      text: 'the day by which they were to be paid is over',
    },
    {
      show: 'FULFIL' as const,
      many: orders.toFulfil,
      mark: 'soon' as const,
      title: counted(orders.toFulfil, 'order is to be fulfilled', 'orders are to be fulfilled'),
      text: 'a thing to post, or a course that waits for somebody to say that it is done',
    },
    {
      show: 'CLAIM' as const,
      many: orders.unclaimed,
      mark: 'later' as const,
      title: counted(orders.unclaimed, 'order has a gift or seat left', 'orders have gifts or seats left'),
      text: 'nobody has taken them up',
    },
  ].filter((row) => row.many > 0);
  if (rows.length === 0) return null;
  return (
    <List title="Orders wait">
      {rows.map(({ show, mark, title, text }) => (
        <Fragment key={show}>
          <Waits mark={mark} title={title} text={text}>
            <Link className={buttonLook()} to="/orders" search={{ show }}>
              See them
            </Link>
          </Waits>
          {onAct !== undefined && show !== 'CLAIM' && (
            <li>
              <OrdersInPlace show={show} onAct={onAct} />
            </li>
          )}
        </Fragment>
      ))}
    </List>
  );
}

function List({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section>
      <h2>{title}</h2>
      <Rows>{children}</Rows>
    </section>
  );
}

interface RowProps {
  mark: 'grave' | 'soon' | 'later';
  title: string;
  text: string;
  people?: number;
  children?: ReactNode;
}

const MARKS = { grave: 'Urgent:', soon: 'To do:', later: 'For later:' };

function Waits({ mark, title, text, people = 0, children }: RowProps) {
  return (
    <Row>
      <Mark kind={mark} />
      <RowWords>
        <strong>
          <span className="sr-only">{MARKS[mark]} </span>
          {title}
        </strong>
        <span>{text}</span>
      </RowWords>
      {people > 0 && (
        <span className="font-head text-lg font-bold" title={counted(people, 'person', 'people')}>
          {people}
        </span>
      )}
      <RowActs>{children}</RowActs>
    </Row>
  );
}

function FailingRow({ failing, now }: { failing: Schemas['Failing']; now: number }) {
  const again = api.useMutation('post', '/api/systems/{connection}/deliveries/again');
  const text = [
    `${counted(failing.people, 'person waits', 'people wait')}, the first since ${fromNow(failing.since, now)}`,
    failing.givenUp > 0 && `${failing.givenUp} given up`,
    failing.nextTryAt !== undefined && nextTry(failing.nextTryAt, now),
  ];
  return (
    <Waits
      mark="grave"
      title={`${failing.system}: ${failing.said ?? 'does not answer'}`}
      text={text.filter(Boolean).join(' · ')}
      people={failing.people}
    >
      {failing.firstPerson !== undefined && (
        <Link className={buttonLook()} to="/people/$id" params={{ id: String(failing.firstPerson) }}>
          Look
        </Link>
      )}
      <Button
        disabled={again.isPending}
        onClick={() => again.mutate({ params: { path: { connection: failing.connection } } })}
      >
        Send again now
      </Button>
      {again.error !== null && <Fault error={again.error} />}
    </Waits>
  );
}

function OutOfStepRow({ one }: { one: Schemas['AtOdds'] }) {
  const text = [
    one.extra > 0 && `${one.extra} there that Yoru knows no reason for`,
    one.missing > 0 && `${one.missing} not there that should be`,
    one.different > 0 && `${one.different} with another end`,
  ];
  return (
    <Waits
      mark="soon"
      title={`${one.system} has something else than it should`}
      text={text.filter(Boolean).join(' · ')}
      people={one.people}
    >
      <Link
        className={buttonLook()}
        to="/systems/$id"
        params={{ id: one.connection }}
        search={{ view: 'out-of-step' }}
      >
        Look
      </Link>
    </Waits>
  );
}

function nextTry(at: string, now: number): string {
  return new Date(at).getTime() <= now ? 'being tried now' : `next try ${fromNow(at, now)}`;
}

function FindingRow({ finding }: { finding: Schemas['ShownFinding'] }) {
  return (
    <Waits
      mark={finding.severity === 'GRAVE' ? 'grave' : 'soon'}
      title={finding.title}
      text={finding.text}
      people={finding.people}
    >
      <FindingAct finding={finding} />
    </Waits>
  );
}

function isAboutOrder(finding: Schemas['ShownFinding']): boolean {
  return finding.subject.startsWith('order/');
}

function FindingAct({ finding }: { finding: Schemas['ShownFinding'] }) {
  if (isAboutOrder(finding)) {
    return (
      <Link className={buttonLook({ kind: 'main' })} to="/orders/$id" params={{ id: idIn(finding.subject) }}>
        Look
      </Link>
    );
  }
  if (isAboutFollowup(finding.subject)) {
    return (
      <Link className={buttonLook()} to="/followups" search={{ which: idIn(finding.subject) }}>
        Look
      </Link>
    );
  }
  if (isAboutDoor(finding.subject)) {
    return (
      <Link
        className={buttonLook()}
        to="/mapping"
        search={{ view: 'catalogue', thing: idIn(finding.subject) }}
      >
        Look
      </Link>
    );
  }
  const place = placeOf(finding.subject);
  const words = finding.kind === 'OPENS_NOTHING' || finding.kind === 'NO_WAY_IN' ? 'Map it' : 'Look';
  return (
    <Link className={buttonLook()} to="/mapping" search={place ?? { view: 'findings' }}>
      {place === undefined ? 'Look' : words}
    </Link>
  );
}
