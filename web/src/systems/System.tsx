import { useTouch } from '../api/touch';
import { Link, useParams, useSearch } from '@tanstack/react-router';
import { useState } from 'react';
import { api, type Schemas } from '../api/client';
import { useNow } from '../band/useNow';
import { useSession } from '../session/session';
import { fromNow, shownTime } from '../ui/dates';
import { counted } from '../ui/words';
import { Differences } from './Differences';
import { Matching } from './Matching';
import { ANY_SALE, saleSheet, SaleToTry, type SampleSale } from './SaleToTry';
import { Settings } from './Settings';
import { ShownThere } from './ShownThere';
import { ABILITIES, KINDS, listed, outOfStep, standing, STATES, type SystemShown } from './words';
import {
  Acts,
  Alarm,
  Badge,
  Button,
  Chain,
  Empty,
  Events,
  Facts,
  Fault,
  Headline,
  Margin,
  Notice,
  Record,
  Row,
  Rows,
  RowWords,
  Screen,
  Sections,
  Stat,
  Step,
  TextButton,
  Views,
  Waiting,
} from '../ui/kit';

const SHOWS = ['DOORS', 'AFTER'] as const;

/** One connected system. */
export function System() {
  const { id } = useParams({ from: '/systems/$id' });
  const { view = 'queue' } = useSearch({ from: '/systems/$id' });
  const system = api.useQuery(
    'get',
    '/api/systems/{id}',
    { params: { path: { id } } },
    { refetchInterval: 3_000 },
  );
  const data = system.data;
  if (data === undefined) {
    return (
      <Screen>
        {system.error === null ? <Waiting what="this system" /> : <Fault error={system.error} />}
      </Screen>
    );
  }
  return (
    <Screen
      margin={
        <Margin label="What follows">
          <Trial key={id} system={data} />
          <About system={data} />
        </Margin>
      }
    >
      <Head system={data} />
      <Views className="mb-3 w-fit" aria-label="Views of the system">
        <Link
          to="/systems/$id"
          params={{ id }}
          search={{}}
          activeOptions={{ exact: true, includeSearch: true }}
        >
          What waits{data.waiting + data.givenUp > 0 && ` (${data.waiting + data.givenUp})`}
        </Link>
        {data.abilities.includes('LISTING') && (
          <Link to="/systems/$id" params={{ id }} search={{ view: 'out-of-step' }}>
            Out of step{outOfStep(data) > 0 && ` (${outOfStep(data)})`}
          </Link>
        )}
        {SHOWS.some((ability) => data.abilities.includes(ability)) && (
          <Link to="/systems/$id" params={{ id }} search={{ view: 'shown' }}>
            What it shows
          </Link>
        )}
        {data.matched && (
          <Link to="/systems/$id" params={{ id }} search={{ view: 'matching' }}>
            Matched fields
          </Link>
        )}
        <Link to="/systems/$id" params={{ id }} search={{ view: 'settings' }}>
          Settings
        </Link>
      </Views>
      {view === 'queue' && <QueueView system={data} />}
      {view === 'out-of-step' && <Differences system={data} />}
      {view === 'shown' && <ShownThere system={data} />}
      {view === 'matching' && <Matching system={data} />}
      {view === 'settings' && <Settings key={data.address + data.title} system={data} />}
    </Screen>
  );
}

function Head({ system }: { system: SystemShown }) {
  const touch = useTouch();
  const become = api.useMutation('post', '/api/systems/{id}/state', {
    onSettled: () => touch('systems'),
  });
  const to = (state: SystemShown['state']) =>
    become.mutate({ params: { path: { id: system.id } }, body: { state } });
  const [tone, words] = standing(system, outOfStep(system));
  return (
    <>
      <Headline>
        <h1>{system.title}</h1>
        <Badge tone={tone}>{system.state === 'ON' ? words : STATES[system.state]}</Badge>
        <p>
          {KINDS[system.kind].name.toLowerCase()} · <code>{system.address}</code>
        </p>
        <Acts>
          {system.state !== 'OFF' && (
            <Button disabled={become.isPending} onClick={() => to('OFF')}>
              Switch off
            </Button>
          )}
          {system.state === 'OFF' && system.matched && (
            <Button disabled={become.isPending} onClick={() => to('TRYING')}>
              Listen and try
            </Button>
          )}
          {system.state !== 'ON' && (
            <Button kind="main" disabled={become.isPending} onClick={() => to('ON')}>
              Switch on
            </Button>
          )}
        </Acts>
      </Headline>
      {become.error !== null && <Fault error={become.error} />}
      {system.state === 'OFF' && (
        <Notice as="p">
          It is off: nothing is sent there and nothing is taken from there. Switched on, it is told everything
          that should be so.
        </Notice>
      )}
      {system.state === 'TRYING' && (
        <Notice as="p">
          It is being tried: what it reports is kept and shown under Matched fields, and has no effect yet.
        </Notice>
      )}
      {system.traffic.leftAlone && (
        <Notice as="p">
          It is left alone for a moment, for it failed at almost everything or asked for patience. Nothing is
          lost.
        </Notice>
      )}
    </>
  );
}

/** What is still to be told, what fails first. */
function QueueView({ system }: { system: SystemShown }) {
  const now = useNow(1_000);
  const touch = useTouch();
  const open = api.useQuery(
    'get',
    '/api/systems/{id}/deliveries',
    { params: { path: { id: system.id } } },
    { refetchInterval: 3_000 },
  );
  const again = api.useMutation('post', '/api/systems/{connection}/deliveries/again', {
    onSettled: () => touch('systems'),
  });
  const failing = (open.data ?? []).filter((one) => one.failingSince !== undefined);
  return (
    <>
      <div className="mb-3 grid grid-cols-2 gap-2 sm:grid-cols-4">
        <Stat words="wait" figure={system.waiting} />
        <Stat words="told in the last minute" figure={system.traffic.answeredLastMinute} />
        <Stat
          words="not answered as asked"
          figure={system.failing}
          tone={system.failing > 0 ? 'bad' : undefined}
        />
        <Stat words="given up" figure={system.givenUp} tone={system.givenUp > 0 ? 'bad' : undefined} />
      </div>
      {failing.length > 0 && (
        <Alarm role="alert">
          <strong>
            {system.title} {failing[0]?.answer}
          </strong>
          <span>{failing[0]?.advice}</span>
          <Acts>
            <Button
              small
              disabled={again.isPending}
              onClick={() => again.mutate({ params: { path: { connection: system.id } } })}
            >
              Send all {failing.length} again now
            </Button>
          </Acts>
          {again.error !== null && <Fault error={again.error} />}
        </Alarm>
      )}
      {open.error !== null && <Fault error={open.error} />}
      {open.data?.length === 0 && (
        <Empty title="Nothing waits.">
          <p>
            {system.state === 'ON'
              ? system.kind === 'SHOP'
                ? 'A shop is told nothing; it reports.'
                : 'It has been told everything it should know.'
              : 'While it is not on, nothing is told to it.'}
          </p>
        </Empty>
      )}
      {open.data !== undefined && open.data.length > 0 && (
        <Rows>
          {open.data.map((one) => (
            <Row key={one.id}>
              <RowWords>
                <strong>
                  <Link to="/people/$id" params={{ id: String(one.person) }}>
                    {one.title}
                  </Link>{' '}
                  <span className="text-soft">{one.open ? 'should be there' : 'should not be there'}</span>
                </strong>
                <span>
                  {one.answer ?? 'not tried yet'}
                  {one.state === 'GIVEN_UP'
                    ? ' · given up'
                    : one.nextTryAt !== undefined && ` · next try ${fromNow(one.nextTryAt, now)}`}
                </span>
              </RowWords>
            </Row>
          ))}
        </Rows>
      )}
      <Story system={system} />
    </>
  );
}

/** What it has and said lately, and what went wrong with it. */
function Story({ system }: { system: SystemShown }) {
  const { zone } = useSession();
  const story = api.useQuery(
    'get',
    '/api/systems/{id}/story',
    { params: { path: { id: system.id } } },
    { refetchInterval: 10_000 },
  );
  if (story.error !== null) return <Fault error={story.error} />;
  if (story.data === undefined) return <Waiting what="what it said" />;
  const { lists, latest, troubles } = story.data;
  return (
    <Sections>
      {latest.length > 0 && (
        <section>
          <h2>What it said last</h2>
          <Events>
            {latest.map((one) => (
              <li key={one.id}>
                <time dateTime={one.at}>{shownTime(one.at, zone)}</time>
                <strong>
                  {one.title}: {one.answer}
                </strong>
                <span>
                  <Link to="/people/$id" params={{ id: String(one.person) }}>
                    {one.name}
                  </Link>
                </span>
              </li>
            ))}
          </Events>
        </section>
      )}
      <section>
        <h2>What went wrong in the last 30 days</h2>
        {troubles.length === 0 ? (
          <p className="text-soft">Nothing.</p>
        ) : (
          <Events>
            {troubles.map((trouble) => (
              <li key={trouble.what}>
                <time dateTime={trouble.last}>{shownTime(trouble.last, zone)}</time>
                <strong>{trouble.what}</strong>
                <span>{trouble.many === 1 ? 'once' : `${trouble.many} times, then for the last time`}</span>
              </li>
            ))}
          </Events>
        )}
      </section>
      {Object.keys(lists).length > 0 && (
        <section>
          <h2>What it lists</h2>
          <p>
            {listed(lists)}.{' '}
            <Link to="/mapping" search={{ view: 'catalogue' }}>
              Look at them
            </Link>
          </p>
        </section>
      )}
    </Sections>
  );
}

/** A test or a try, with what came of each hop. */
function Trial({ system }: { system: SystemShown }) {
  const [shown, setShown] = useState<'test' | 'try'>();
  const [sale, setSale] = useState<SampleSale>(ANY_SALE);
  const test = api.useMutation('post', '/api/systems/{id}/test');
  const trial = api.useMutation('post', '/api/systems/{id}/try');
  const params = { params: { path: { id: system.id } } };
  return (
    <section>
      <h2>Does it work?</h2>
      <Acts>
        <Button
          small
          disabled={test.isPending}
          onClick={() => {
            setShown('test');
            test.mutate(params);
          }}
        >
          {test.isPending ? 'Testing …' : 'Test'}
        </Button>
        <Button
          small
          disabled={trial.isPending}
          onClick={() => {
            setShown('try');
            trial.mutate({ ...params, body: saleSheet(sale) });
          }}
        >
          {trial.isPending ? 'Trying …' : 'Try once'}
        </Button>
      </Acts>
      {system.kind === 'SHOP' && <SaleToTry sale={sale} onChange={setSale} />}
      {shown === undefined && (
        <p className="text-soft">
          Test shows a real record from the other side.{' '}
          {system.kind === 'SHOP'
            ? 'Try once follows a sale that nobody made, hop by hop; nothing is kept or sent.'
            : 'Try once sends a sample for somebody invented, and takes it back; their account stays there, closed.'}
        </p>
      )}
      {shown === 'test' && test.data !== undefined && <Tested system={system} tested={test.data} />}
      {shown === 'test' && test.error !== null && <Fault error={test.error} />}
      {shown === 'try' && trial.data !== undefined && <Hops hops={trial.data.hops} />}
      {shown === 'try' && trial.error !== null && <Fault error={trial.error} />}
    </section>
  );
}

function Tested({ system, tested }: { system: SystemShown; tested: Schemas['Tested'] }) {
  if (tested.fault !== undefined) {
    return (
      <>
        <Alarm role="alert">
          <strong>It {tested.fault}</strong>
          <span>{tested.advice}</span>
          {tested.tried.length > 0 && (
            <span>
              This address does not look like a SCIM interface. Tried {tested.tried.join(', ')}:{' '}
              {tested.found === undefined ? 'not found there either.' : 'found.'}
            </span>
          )}
        </Alarm>
        {tested.found !== undefined && <UseAddress id={system.id} address={tested.found} />}
      </>
    );
  }
  return (
    <>
      <p className="text-success" role="status">
        It answered with {tested.what}
      </p>
      <Record tabIndex={0} aria-label="The record">
        {tested.record}
      </Record>
    </>
  );
}

function UseAddress({ id, address }: { id: string; address: string }) {
  const touch = useTouch();
  const change = api.useMutation('put', '/api/systems/{id}', { onSettled: () => touch('systems') });
  return change.isSuccess ? (
    <p className="text-success" role="status">
      Its address is {address} now. Test it again.
    </p>
  ) : (
    <>
      {change.error !== null && <Fault error={change.error} />}
      <Button
        small
        disabled={change.isPending}
        onClick={() => change.mutate({ params: { path: { id } }, body: { address } })}
      >
        Use {address}
      </Button>
    </>
  );
}

const OUTCOMES = { WELL: 'good', FAILED: 'bad', LEFT_OUT: 'soft' } as const;

function Hops({ hops }: { hops: Schemas['Hop'][] }) {
  return (
    <Chain role="status">
      {hops.map((hop) => (
        <Step key={hop.title} tone={OUTCOMES[hop.outcome]}>
          <strong>{hop.title}</strong>
          <span>{hop.text}</span>
        </Step>
      ))}
    </Chain>
  );
}

function About({ system }: { system: SystemShown }) {
  const { zone, address } = useSession();
  const touch = useTouch();
  const seen = api.useMutation('post', '/api/systems/{id}/catalogue/seen', {
    onSettled: () => touch('systems'),
  });
  const read = api.useMutation('post', '/api/systems/{id}/catalogue', {
    onSettled: () => touch('systems'),
  });
  const params = { params: { path: { id: system.id } } };
  return (
    <>
      {system.changed.length > 0 && (
        <section>
          <h2>Changed in its catalogue</h2>
          <p className="text-soft">Links follow the id, whatever a thing is called.</p>
          <Facts>
            {system.changed.map((one) => (
              <li key={`${one.kind}/${one.id}`}>
                <strong>{one.title}</strong>
                <span>
                  {one.kind.toLowerCase()} · {became(one)} · <code>{one.id}</code>
                </span>
              </li>
            ))}
          </Facts>
          <Button small onClick={() => seen.mutate(params)}>
            Seen
          </Button>
        </section>
      )}
      <section>
        <h2>What it can do</h2>
        <p>{system.abilities.map((ability) => ABILITIES[ability]).join(' · ')}</p>
        {system.reportsTo !== undefined && (
          <p className="text-soft">
            It reports to <code>{address + system.reportsTo}</code>
            {system.heardAt === undefined ? ', and has not yet' : `, last ${shownTime(system.heardAt, zone)}`}
            {system.refused > 0 &&
              `; ${counted(system.refused, 'report', 'reports')} turned away for the signature`}
            .
          </p>
        )}
        {system.abilities.includes('CATALOGUE') && (
          <p className="text-soft">
            {system.catalogueFault !== undefined
              ? `Its catalogue: ${system.catalogueFault}.`
              : system.catalogueAt !== undefined
                ? `Catalogue read ${shownTime(system.catalogueAt, zone)}.`
                : 'Its catalogue was not read yet.'}{' '}
            <TextButton disabled={read.isPending} onClick={() => read.mutate(params)}>
              {read.isPending ? 'Reading …' : 'Read it now'}
            </TextButton>
          </p>
        )}
      </section>
    </>
  );
}

function became(one: Schemas['Changed']): string {
  if (one.news === 'NEW') return 'new: nothing is mapped yet, unless its category is';
  return one.news === 'GONE' ? 'no longer listed' : `was ${one.before}`;
}
