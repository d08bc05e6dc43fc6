import { Link, useNavigate, useParams, useSearch } from '@tanstack/react-router';
import { api, type Schemas } from '../api/client';
import { isOpen } from './states';
import { useAsOf } from '../band/asOf';
import { useSession } from '../session/session';
import { shownDate, shownTime } from '../ui/dates';
import { Empty, Fault, Margin, Screen, Waiting } from '../ui/parts';
import { counted } from '../ui/words';
import { TimeLine } from './TimeLine';
import { Why } from './Why';

/** One learner's truth. */
export function Person() {
  const { id } = useParams({ from: '/people/$id' });
  const { target } = useSearch({ from: '/people/$id' });
  const navigate = useNavigate({ from: '/people/$id' });
  const { zone } = useSession();
  const asOf = useAsOf();
  const number = Number(id);
  const person = api.useQuery(
    'get',
    '/api/people/{id}',
    {
      params: {
        path: { id: Number.isSafeInteger(number) ? number : 0 },
        query: asOf.instant === undefined ? {} : { at: asOf.instant },
      },
    },
    {
      refetchInterval: asOf.instant === undefined ? 2_000 : false,
      placeholderData: (previous) => (previous?.id === number ? previous : undefined),
    },
  );
  const data = person.data;
  if (data === undefined) {
    return (
      <Screen>
        {person.error === null ? (
          <Waiting what="the person" />
        ) : (
          <>
            <Fault error={person.error} />
            <Link to="/people">To all people</Link>
          </>
        )}
      </Screen>
    );
  }
  const chosen = data.targets.find((one) => one.target === target) ?? firstToExplain(data.targets);
  return (
    <Screen
      margin={
        <Margin label="Why">
          {chosen === undefined ? (
            <section className="quiet">
              <h2>Nothing is open</h2>
              <p>{nothing(data)}</p>
            </section>
          ) : (
            <Why person={data} target={chosen} tense={asOf.tense} />
          )}
        </Margin>
      }
    >
      <header className="person-head">
        <h1>{data.name === '' ? data.key : data.name}</h1>
        <p className="soft">
          {data.key} · here since {shownDate(data.since, zone)}
        </p>
        <div className="chips">
          <span className="chip">{counted(data.orders, 'order', 'orders')}</span>
          <span className="chip">
            {counted(
              data.targets.filter(
                (one) => one.sort === 'course' && one.windows.some((it) => isOpen(it.state)),
              ).length,
              'course',
              'courses',
            )}{' '}
            open
          </span>
          <SystemStates targets={data.targets} />
        </div>
      </header>
      {person.error !== null && <Fault error={person.error} />}
      {data.targets.length === 0 ? (
        <Empty title="Nothing was ever open.">
          <p>{nothing(data)}</p>
        </Empty>
      ) : (
        <TimeLine
          targets={data.targets}
          asOf={new Date(data.asOf)}
          chosen={chosen?.target}
          onChoose={(next) =>
            void navigate({ search: (previous) => ({ ...previous, target: next }), replace: true })
          }
        />
      )}
      <section>
        <h2>What happened</h2>
        <ol className="happened">
          {data.happened.map((event) => (
            <li key={`${event.at} ${event.title}`}>
              <time dateTime={event.at}>{shownTime(event.at, zone)}</time>
              <strong>{event.title}</strong>
              <span>{event.text}</span>
            </li>
          ))}
        </ol>
      </section>
    </Screen>
  );
}

/** Something open if there is any, for that is what people ask about first. */
function firstToExplain(targets: Schemas['ShownTarget'][]): Schemas['ShownTarget'] | undefined {
  return targets.find((one) => one.windows.some((window) => isOpen(window.state))) ?? targets[0];
}

function nothing(person: Schemas['PersonShown']): string {
  return person.orders === 0
    ? 'No order was known by then.'
    : 'None of what was ordered opens a course: it is not paid, it was given back, or no product of it is mapped to one.';
}

/** What each system has of all that it was told. */
function SystemStates({ targets }: { targets: Schemas['ShownTarget'][] }) {
  const bySystem = new Map<string, Schemas['Standing'][]>();
  for (const standing of targets.flatMap((one) => one.systems)) {
    bySystem.set(standing.system, [...(bySystem.get(standing.system) ?? []), standing]);
  }
  return (
    <span className="system-states">
      {[...bySystem].map(([system, standings]) => {
        const open = standings.filter((standing) => standing.state !== 'ANSWERED').length;
        return (
          <span key={system} className={open === 0 ? 'soft' : 'bad'}>
            {open === 0 ? `${system} ✓` : `${system}: ${open} waiting`}
          </span>
        );
      })}
    </span>
  );
}
