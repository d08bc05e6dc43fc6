import { Link, useNavigate, useSearch } from '@tanstack/react-router';
import { Fragment } from 'react';
import { api, type Schemas } from '../api/client';
import { useAsOf } from '../band/asOf';
import { SHOWN_KINDS, type JournalSearch } from './search';
import { useSession } from '../session/session';
import { dayOf, shownClock, shownWeekday } from '../ui/dates';
import { SearchField } from '../ui/SearchField';
import {
  Button,
  Empty,
  Fault,
  Headline,
  INK,
  Screen,
  TextButton,
  type Tone,
  Views,
  Waiting,
} from '../ui/kit';

type Line = Schemas['JournalLine'];
type Show = NonNullable<JournalSearch['show']>;

const FILTERS: Record<Show, { title: string; kinds: Line['kind'][] }> = {
  all: { title: 'Everything', kinds: [] },
  facts: { title: 'What happened outside', kinds: ['FACT'] },
  troubles: { title: 'What went wrong', kinds: ['WARNING', 'REFUSED', 'FAILED'] },
  operators: { title: 'What we did', kinds: ['PUBLISHED', 'OPERATOR'] },
};

const KINDS: Record<Line['kind'], { word: string; tone: Tone }> = {
  FACT: { word: 'fact', tone: 'lamp' },
  WARNING: { word: 'warning', tone: 'warn' },
  REFUSED: { word: 'turned away', tone: 'bad' },
  OPENED: { word: 'opened', tone: 'good' },
  ENDED: { word: 'ended', tone: 'soft' },
  ANSWERED: { word: 'answered', tone: 'good' },
  FAILED: { word: 'failed', tone: 'bad' },
  PUBLISHED: { word: 'published', tone: 'violet' },
  OPERATOR: { word: 'operator', tone: 'violet' },
};

/** Everything that happened, the latest first, and what followed from each. */
export function Journal() {
  const { q = '', show = 'all', person } = useSearch({ from: '/journal' });
  const navigate = useNavigate({ from: '/journal' });
  const asOf = useAsOf();
  const change = (next: JournalSearch) =>
    void navigate({ search: (previous) => ({ ...previous, ...next }), replace: true });
  return (
    <Screen>
      <Headline>
        <h1>Journal</h1>
        <Views as="div" role="group" aria-label="What is shown">
          {SHOWN_KINDS.map((one) => (
            <button key={one} aria-pressed={one === show} onClick={() => change({ show: one })}>
              {FILTERS[one].title}
            </button>
          ))}
        </Views>
        <SearchField
          label="Find in the journal"
          placeholder="Order, name, product"
          value={q}
          onChange={(words) => change({ q: words })}
        />
      </Headline>
      {/* begun anew for each filter */}
      {person !== undefined && <OnlyOf person={person} onAll={() => change({ person: undefined })} />}
      <Lines
        key={`${show} ${q} ${asOf.instant ?? ''} ${person ?? ''}`}
        filter={{ kinds: FILTERS[show].kinds, words: q, until: asOf.instant, person }}
      />
    </Screen>
  );
}

const LOOK_MS = 4_000;

interface Filter {
  kinds: Line['kind'][];
  words: string;
  until: string | undefined;
  person: number | undefined;
}

/** Of whom the lines are, where they are of one person alone. */
function OnlyOf({ person, onAll }: { person: number; onAll: () => void }) {
  const found = api.useQuery('get', '/api/people/{id}', { params: { path: { id: person } } });
  return (
    <p>
      Only of{' '}
      <Link to="/people/$id" params={{ id: String(person) }}>
        {found.data?.name ?? 'one person'}
      </Link>
      . <TextButton onClick={onAll}>Of everybody</TextButton>
    </p>
  );
}

function Lines({ filter: { kinds, words, until, person } }: { filter: Filter }) {
  const journal = api.useInfiniteQuery(
    'get',
    '/api/journal',
    {
      params: {
        query: {
          kind: kinds,
          q: words,
          ...(until !== undefined && { until }),
          ...(person !== undefined && { person }),
        },
      },
    },
    {
      pageParamName: 'before',
      // later than whatever is written
      initialPageParam: Number.MAX_SAFE_INTEGER,
      getNextPageParam: (page: Line[]) => page.at(-1)?.id,
      // whoever has gone back in it reads on in peace
      refetchInterval: ({ state }) =>
        until === undefined && (state.data?.pages.length ?? 0) <= 1 ? LOOK_MS : false,
    },
  );
  if (journal.error !== null) return <Fault error={journal.error} />;
  if (journal.data === undefined) return <Waiting what="the journal" />;
  const lines = journal.data.pages.flat();
  if (lines.length === 0) {
    return (
      <Empty title={words === '' ? 'Nothing is written here.' : `Nothing is written about “${words}”.`} />
    );
  }
  return (
    <>
      <ol className="divide-y divide-line">
        <Entries lines={lines} />
      </ol>
      {journal.hasNextPage && (
        <Button
          className="mt-3.5"
          onClick={() => void journal.fetchNextPage()}
          disabled={journal.isFetchingNextPage}
        >
          Further back
        </Button>
      )}
    </>
  );
}

/** Lines with the day over the first of each. */
function Entries({ lines }: { lines: Line[] }) {
  const { zone } = useSession();
  return lines.map((line, at) => {
    const day = dayOf(line.at, zone);
    const last = lines[at - 1];
    return (
      <Fragment key={line.id}>
        {(last === undefined || dayOf(last.at, zone).compare(day) !== 0) && (
          <li className="pt-4 pb-1 first:pt-0">
            <h2>{shownWeekday(day)}</h2>
          </li>
        )}
        <Entry line={line} />
      </Fragment>
    );
  });
}

function Entry({ line }: { line: Line }) {
  const { zone } = useSession();
  return (
    <li className="grid gap-x-2.5 py-2 md:grid-cols-[5rem_7rem_1fr]">
      <time className="pt-0.5 font-code text-2xs text-soft" dateTime={line.at}>
        {shownClock(line.at, zone)}
      </time>
      <span className={`text-[0.9rem] font-semibold ${INK[KINDS[line.kind].tone]}`}>
        {KINDS[line.kind].word}
      </span>
      <div>
        <p>
          <strong>
            {line.personId === undefined ? (
              line.title
            ) : (
              <Link to="/people/$id" params={{ id: String(line.personId) }}>
                {line.title}
              </Link>
            )}
          </strong>{' '}
          {line.text}
          {line.actor !== undefined && (
            <span className="text-soft" title={line.account}>
              {' '}
              · {line.actor}
            </span>
          )}
        </p>
        {line.followed.length > 0 && (
          <ul className="mt-1 border-l-2 border-line pl-3.5 text-[0.93rem]">
            {line.followed.map((after) => (
              <li key={after.id} className={INK[KINDS[after.kind].tone]}>
                {after.title} <span className="text-soft">{after.text}</span>
              </li>
            ))}
          </ul>
        )}
      </div>
    </li>
  );
}
