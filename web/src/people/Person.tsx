import { Link, useNavigate, useParams, useSearch } from '@tanstack/react-router';
import { useState } from 'react';
import { api, type Schemas } from '../api/client';
import { isOpen } from './states';
import { useAsOf } from '../band/asOf';
import { FollowupsOf } from '../followups/OfPerson';
import { useMay } from '../session/may';
import { useSession } from '../session/session';
import { shownDate, shownTime } from '../ui/dates';
import { counted } from '../ui/words';
import { Ask } from './Ask';
import { Elsewhere } from './Elsewhere';
import { Held } from './Held';
import { Notes } from './Notes';
import { PersonAct, type PersonDeed } from './PersonAct';
import { Menu } from '../ui/Menu';
import { TimeLine } from './TimeLine';
import { Why } from './Why';
import {
  Acts,
  Button,
  buttonLook,
  Chip,
  Empty,
  Events,
  Fault,
  Margin,
  Notice,
  Screen,
  Sections,
  Waiting,
} from '../ui/kit';

/** One learner's truth. */
export function Person() {
  const { id } = useParams({ from: '/people/$id' });
  const { target } = useSearch({ from: '/people/$id' });
  const navigate = useNavigate({ from: '/people/$id' });
  const { zone } = useSession();
  const asOf = useAsOf();
  const may = useMay();
  const [deed, setDeed] = useState<PersonDeed>();
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
  const now = asOf.tense === 'now';
  const onDeed = now && may.act && data.erasure === undefined ? setDeed : undefined;
  return (
    <Screen
      margin={
        <Margin label="Why">
          {deed !== undefined && onDeed !== undefined ? (
            <PersonAct
              key={JSON.stringify(deed)}
              person={data}
              deed={deed}
              onEnd={() => setDeed(undefined)}
            />
          ) : (
            <>
              {chosen === undefined ? (
                <section className="[&>p]:mt-2 [&>p]:text-soft">
                  <h2>Nothing is open</h2>
                  <p>{nothing(data)}</p>
                </section>
              ) : (
                <Why person={data} target={chosen} tense={asOf.tense} />
              )}
              {onDeed !== undefined && chosen !== undefined && endsOpen(chosen) && (
                <Button onClick={() => setDeed({ kind: 'EXTEND', id: chosen.target, title: chosen.title })}>
                  Keep it open for longer
                </Button>
              )}
              {data.erasure === undefined && <Ask key={data.id} person={data} at={asOf.instant} />}
            </>
          )}
        </Margin>
      }
    >
      <header>
        {onDeed !== undefined && (
          <Acts className="float-right">
            <Button onClick={() => setDeed({ kind: 'GIVE' })}>Give access</Button>
            <Link to="/orders/by-hand" search={{ person: data.key }} className={buttonLook()}>
              New order
            </Link>
            {may.setUp && (
              <Link to="/rehearse" search={{ person: data.key }} className={buttonLook()}>
                Rehearse
              </Link>
            )}
            <More person={data} mayErase={may.setUp} onDeed={setDeed} />
          </Acts>
        )}
        <h1>{data.name === '' ? data.key : data.name}</h1>
        <p className="text-soft">
          {data.key}
          {data.joined.map((other) => ` · also ${other.key}`)} · here since {shownDate(data.since, zone)}
        </p>
        {data.erasure !== undefined && <ErasureNote person={data} />}
        {data.joinedInto !== undefined && (
          <Notice as="p" role="status">
            Joined with{' '}
            <Link to="/people/$id" params={{ id: String(data.joinedInto.id) }}>
              {data.joinedInto.name}
            </Link>
            : all that is here counts there.
          </Notice>
        )}
        {data.erasure === undefined && (
          <div className="mt-2.5 mb-3.5 flex flex-wrap items-center gap-2">
            <Chip>{counted(data.orders, 'order', 'orders')}</Chip>
            <Chip>
              {counted(
                data.targets.filter(
                  (one) => one.sort === 'course' && one.windows.some((it) => isOpen(it.state)),
                ).length,
                'course',
                'courses',
              )}{' '}
              open
            </Chip>
            <SystemStates targets={data.targets} />
          </div>
        )}
      </header>
      {person.error !== null && <Fault error={person.error} />}
      {data.targets.length === 0 ? (
        data.erasure === undefined && (
          <Empty title="Nothing was ever open.">
            <p>{nothing(data)}</p>
          </Empty>
        )
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
      <Sections>
        <Held person={data} at={asOf.instant} onDeed={onDeed} />
        <Elsewhere person={data} />
        <FollowupsOf person={data.id} />
        <Notes person={data} writable={onDeed !== undefined} />
        <section>
          <h2>What happened</h2>
          <Events>
            {data.happened.map((event) => (
              <li key={`${event.at} ${event.title}`}>
                <time dateTime={event.at}>{shownTime(event.at, zone)}</time>
                <strong>{event.title}</strong>
                <span>{event.text}</span>
              </li>
            ))}
          </Events>
        </section>
      </Sections>
    </Screen>
  );
}

/** How far somebody has been erased, and what it waits for. */
function ErasureNote({ person }: { person: Schemas['PersonShown'] }) {
  return (
    <Notice as="p" role="status">
      {person.erasure === 'DONE'
        ? 'Erased. What stays is for the books, and says no more whose it was.'
        : person.erasureWaitsFor.length === 0
          ? 'Being erased: everything is being closed.'
          : `Being erased: waits until ${person.erasureWaitsFor.join(', ')} has answered that everything is closed.`}
    </Notice>
  );
}

function More({
  person,
  mayErase,
  onDeed,
}: {
  person: Schemas['PersonShown'];
  mayErase: boolean;
  onDeed: (deed: PersonDeed) => void;
}) {
  const deeds: { kind: 'JOIN' | 'MOVE' | 'PART' | 'ERASE'; words: string }[] =
    person.joinedInto === undefined
      ? [
          { kind: 'MOVE', words: 'Change the address' },
          { kind: 'JOIN', words: 'Join with somebody' },
          ...(mayErase ? [{ kind: 'ERASE' as const, words: 'Erase for good' }] : []),
        ]
      : [{ kind: 'PART', words: `Part from ${person.joinedInto.name}` }];
  return (
    <Menu
      className={buttonLook()}
      acts={[
        ...deeds.map(({ kind, words }) => ({ id: kind, words, onAct: () => onDeed({ kind }) })),
        {
          id: 'data',
          words: 'All data as a file',
          onAct: () => window.location.assign(`/api/people/${person.id}/data`),
        },
      ]}
    >
      More
    </Menu>
  );
}

/** Whether it is open and would end. */
function endsOpen(target: Schemas['ShownTarget']): boolean {
  return target.windows.some((window) => isOpen(window.state) && window.end !== undefined);
}

/** Something open if there is any, for that is what people ask about first. */
function firstToExplain(all: Schemas['ShownTarget'][]): Schemas['ShownTarget'] | undefined {
  const targets = coursesFirst(all);
  return targets.find((one) => one.windows.some((window) => isOpen(window.state))) ?? targets[0];
}

/** Courses are what most questions are about. */
function coursesFirst(targets: Schemas['ShownTarget'][]): Schemas['ShownTarget'][] {
  return targets.toSorted((a, b) => Number(a.sort !== 'course') - Number(b.sort !== 'course'));
}

function nothing(person: Schemas['PersonShown']): string {
  if (person.erasure !== undefined) return 'Nothing counts for somebody who was erased.';
  return person.orders === 0
    ? 'No order was known by then.'
    : 'None of what was ordered opens a course: it is not paid, it was given back, or no product of it is mapped to one.';
}

/** What each system has of all that it was told. */
function SystemStates({ targets }: { targets: Schemas['ShownTarget'][] }) {
  const bySystem = new Map<string, Schemas['DeliveryStatus'][]>();
  for (const standing of targets.flatMap((one) => one.systems)) {
    bySystem.set(standing.system, [...(bySystem.get(standing.system) ?? []), standing]);
  }
  return (
    <span className="ml-auto flex gap-3.5 font-medium">
      {[...bySystem].map(([system, standings]) => {
        const open = standings.filter((standing) => standing.state !== 'ANSWERED').length;
        return (
          <span key={system} className={open === 0 ? 'text-soft' : 'text-error'}>
            {open === 0 ? `${system} ✓` : `${system}: ${open} waiting`}
          </span>
        );
      })}
    </span>
  );
}
