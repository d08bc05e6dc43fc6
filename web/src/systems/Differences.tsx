import { useTouch } from '../api/touch';
import { Link, useSearch } from '@tanstack/react-router';
import { useState } from 'react';
import { api, type Schemas } from '../api/client';
import { useSession } from '../session/session';
import { shownDate, shownTime } from '../ui/dates';
import { counted } from '../ui/words';
import { useOffer } from '../desk/offer';
import { DIFFERENCES, type DifferenceKind, type SystemShown } from './words';
import {
  Acts,
  Button,
  Empty,
  Fault,
  Field,
  Input,
  Notice,
  Row,
  RowActs,
  Rows,
  RowWords,
  Waiting,
} from '../ui/kit';

const WORDS: Record<DifferenceKind, { title: string; text: string; correct: string; correctAll: string }> = {
  EXTRA: {
    title: 'There, and Yoru knows no reason',
    text: 'Somebody let them in by hand, or a message was lost.',
    correct: 'Take it away',
    correctAll: 'Take all away',
  },
  MISSING: {
    title: 'Not there, and should be',
    text: 'Somebody took it away by hand, or the system has forgotten it.',
    correct: 'Put it back',
    correctAll: 'Put all back',
  },
  DIFFERENT: {
    title: 'There, to another end',
    text: 'The system has another end than Yoru wants.',
    correct: 'Set the end',
    correctAll: 'Set all ends',
  },
};

/** Whoever is no longer on a list has left it, and is not put back. */
function correctionOf({ kind, target }: Schemas['OutOfStepShown']): string {
  return kind === 'MISSING' && target.startsWith('list/') ? 'They left it' : WORDS[kind].correct;
}

/** Where the system has something else than Yoru wants there, and the two ways to put it right. */
export function Differences({ system }: { system: SystemShown }) {
  const { zone } = useSession();
  const touch = useTouch();
  const { target } = useSearch({ from: '/systems/$id' });
  /** How many were left as they are, of those asked for last. */
  const [overtaken, setOvertaken] = useState(0);
  const rows = api.useQuery(
    'get',
    '/api/systems/{id}/out-of-step',
    { params: { path: { id: system.id }, query: target === undefined ? {} : { target } } },
    { refetchInterval: 5_000 },
  );
  const check = api.useMutation('post', '/api/systems/{id}/check', {
    onMutate: () => setOvertaken(0),
    onSettled: () => touch('access'),
  });
  const running = system.check !== undefined && system.check.endedAt === undefined;
  return (
    <>
      <Acts className="items-center">
        <Button
          disabled={running || check.isPending || system.state !== 'ON'}
          onClick={() => check.mutate({ params: { path: { id: system.id } } })}
        >
          {running ? 'Comparing …' : 'Compare now'}
        </Button>
        <span className="text-soft" role="status">
          {system.check === undefined
            ? 'Not compared yet.'
            : running
              ? `${system.check.found} entries read so far${system.check.fault === undefined ? '' : `; it ${system.check.fault}, tried again`}`
              : system.check.fault !== undefined
                ? `The last comparison came to no end: it ${system.check.fault}.`
                : `Compared ${shownTime(system.check.endedAt ?? '', zone)} by ${system.check.begunBy}: ${counted(system.check.found, 'entry', 'entries')} read.`}
        </span>
      </Acts>
      {check.error !== null && <Fault error={check.error} />}
      {rows.error !== null && <Fault error={rows.error} />}
      {rows.data === undefined && rows.error === null && <Waiting what="the differences" />}
      {overtaken > 0 && (
        <Notice role="status" className="mt-3">
          {counted(overtaken, 'entry was', 'entries were')} left alone: {system.title} has been told about{' '}
          {overtaken === 1 ? 'it' : 'them'} since it was compared. Compare it again to see what is out of step
          now.
        </Notice>
      )}
      {target !== undefined && (
        <p className="text-soft">
          Only {rows.data?.[0]?.title ?? 'what was asked for'} is shown.{' '}
          <Link
            className="link"
            to="/systems/$id"
            params={{ id: system.id }}
            search={{ view: 'out-of-step' }}
          >
            Show all
          </Link>
        </p>
      )}
      {rows.data?.length === 0 && overtaken === 0 && (
        <Empty title={system.check?.endedAt === undefined ? 'Nothing is known yet.' : 'It is in step.'}>
          <p>
            {system.check?.endedAt === undefined
              ? 'Compare it, and here stands what the system has that it should not, and the reverse.'
              : 'It has what it should have, and nothing else.'}
          </p>
        </Empty>
      )}
      {DIFFERENCES.filter((kind) => system.outOfStep[kind] !== undefined)
        .map((kind) => ({ kind, rows: (rows.data ?? []).filter((row) => row.kind === kind) }))
        .filter(({ rows }) => target === undefined || rows.length > 0)
        .map(({ kind, rows }) => (
          <OneKind
            key={kind}
            kind={kind}
            system={system}
            rows={rows}
            only={target !== undefined}
            onOvertaken={setOvertaken}
          />
        ))}
    </>
  );
}

function OneKind({
  kind,
  system,
  rows,
  only,
  onOvertaken,
}: {
  kind: DifferenceKind;
  system: SystemShown;
  rows: Schemas['OutOfStepShown'][];
  /** The rows are all that is meant; else they are the first of all of the kind. */
  only: boolean;
  onOvertaken: (many: number) => void;
}) {
  const { zone } = useSession();
  const touch = useTouch();
  const [asking, setAsking] = useState<'correct' | 'adopt'>();
  const [why, setWhy] = useState('');
  /** The row that is asked about. */
  const [taking, setTaking] = useState<number>();
  const done = {
    onSuccess: (settled: Schemas['Settled']) => onOvertaken(settled.overtaken),
    onSettled: async () => {
      setAsking(undefined);
      setTaking(undefined);
      await touch('access');
    },
  };
  const correct = api.useMutation('post', '/api/systems/{id}/out-of-step/correct', done);
  const adopt = api.useMutation('post', '/api/systems/{id}/out-of-step/adopt', done);
  const path = { path: { id: system.id } };
  const count = only
    ? { many: rows.length, people: new Set(rows.map((row) => row.person)).size }
    : (system.outOfStep[kind] ?? { many: 0, people: 0 });
  const choice = only ? { ids: rows.map((row) => row.id) } : { kind };
  const words = WORDS[kind];
  const busy = correct.isPending || adopt.isPending;
  return (
    <section aria-label={words.title}>
      <div className="mt-4 mb-2 flex flex-wrap items-center gap-2.5 [&>h2]:m-0 [&>h2]:mr-auto">
        <h2>
          {words.title} <span className="text-soft">{count.many}</span>
        </h2>
        <Button small disabled={busy} onClick={() => setAsking('correct')}>
          {words.correctAll}
        </Button>
        {kind === 'EXTRA' && (
          <Button small disabled={busy} onClick={() => setAsking('adopt')}>
            Take all over
          </Button>
        )}
      </div>
      <p className="text-soft">{words.text}</p>
      {asking !== undefined && (
        <Notice role="alertdialog" aria-label="Before it is done">
          <strong>
            {asking === 'adopt'
              ? `${counted(count.people, 'person keeps', 'people keep')} what they have, as given by hand.`
              : kind === 'EXTRA'
                ? `${counted(count.people, 'person loses', 'people lose')} ${counted(count.many, 'entry', 'entries')} in ${system.title}.`
                : `${system.title} is told about ${counted(count.people, 'person', 'people')} again.`}
          </strong>
          {asking === 'adopt' && (
            <>
              <label htmlFor={`why-${kind}`}>Why?</label>
              <Input
                id={`why-${kind}`}
                maxLength={300}
                value={why}
                onChange={(event) => setWhy(event.target.value)}
              />
            </>
          )}
          <Acts>
            <Button
              kind="main"
              small
              disabled={busy}
              onClick={() =>
                asking === 'adopt'
                  ? adopt.mutate({ params: path, body: { ...choice, why } })
                  : correct.mutate({ params: path, body: choice })
              }
            >
              {asking === 'adopt' ? 'Take over' : words.correctAll}
            </Button>
            <Button small onClick={() => setAsking(undefined)}>
              Leave it
            </Button>
          </Acts>
        </Notice>
      )}
      {correct.error !== null && <Fault error={correct.error} />}
      {adopt.error !== null && <Fault error={adopt.error} />}
      <Rows>
        {rows.map((row) => (
          <Row key={row.id}>
            {taking === row.id && (
              <TakeOver
                row={row}
                busy={busy}
                onTake={(reason) => adopt.mutate({ params: path, body: { ids: [row.id], why: reason } })}
                onLeave={() => setTaking(undefined)}
              />
            )}
            <RowWords>
              <strong>
                {row.personId === undefined ? (
                  row.name
                ) : (
                  <Link to="/people/$id" params={{ id: String(row.personId) }}>
                    {row.name}
                  </Link>
                )}{' '}
                <span className="text-soft">{row.title}</span>
              </strong>
              <span>{ends(row, zone)}</span>
            </RowWords>
            <RowActs>
              {kind === 'EXTRA' && (
                <Button
                  small
                  disabled={busy}
                  aria-label={`Take over ${row.title} of ${row.name}`}
                  onClick={() => setTaking(row.id)}
                >
                  Take over
                </Button>
              )}
              <Button
                small
                disabled={busy}
                aria-label={`${correctionOf(row)}: ${row.title} of ${row.name}`}
                onClick={() => correct.mutate({ params: path, body: { ids: [row.id] } })}
              >
                {correctionOf(row)}
              </Button>
            </RowActs>
          </Row>
        ))}
      </Rows>
      {count.many > rows.length && rows.length > 0 && (
        <p className="text-soft">and {count.many - rows.length} more</p>
      )}
    </section>
  );
}

/** Asks before one is taken over, and offers to give a product with all that it opens instead. */
function TakeOver({
  row,
  busy,
  onTake,
  onLeave,
}: {
  row: Schemas['OutOfStepShown'];
  busy: boolean;
  onTake: (why: string) => void;
  onLeave: () => void;
}) {
  const [why, setWhy] = useState('');
  const offer = useOffer();
  const grid = api.useQuery('get', '/api/mapping').data;
  const opening = new Set(
    (grid?.cells ?? []).filter((cell) => cell.target === row.target).map((cell) => cell.source),
  );
  const products = (offer?.products ?? []).filter((product) => opening.has(`product/${product.id}`));
  return (
    <Notice role="alertdialog" aria-label="Before it is taken over" className="mb-0 w-full">
      <strong>
        {row.name} keeps {row.title}, as given by hand, {until(row.foundUntil)}. Nothing else opens.
      </strong>
      <Field label="Why?" value={why} onValue={setWhy} maxLength={300} />
      {products.length > 0 && (
        <p>
          Or give a product with everything it opens, free of charge or paid:{' '}
          {products.map((product, at) => (
            <span key={product.id}>
              {at > 0 && ', '}
              <Link to="/orders/by-hand" search={{ person: row.person, product: product.id }}>
                {product.title}
              </Link>
            </span>
          ))}
        </p>
      )}
      <Acts>
        <Button kind="main" small disabled={busy} onClick={() => onTake(why)}>
          Take over
        </Button>
        <Button small onClick={onLeave}>
          Leave it
        </Button>
      </Acts>
    </Notice>
  );
}

function until(end: string | undefined): string {
  return end === undefined ? 'without end' : 'until its end there';
}

function ends(row: Schemas['OutOfStepShown'], zone: string): string {
  const until = (end: string | undefined) =>
    end === undefined ? 'without end' : `until ${shownDate(end, zone)}`;
  const noticed = `noticed ${shownDate(row.noticedAt, zone)}`;
  switch (row.kind) {
    case 'EXTRA':
      return `${until(row.foundUntil)} there · ${noticed}`;
    case 'MISSING':
      return `should be there ${until(row.wantedUntil)} · ${noticed}`;
    case 'DIFFERENT':
      return `${until(row.foundUntil)} there, should be ${until(row.wantedUntil)} · ${noticed}`;
  }
}
