import { Link, useNavigate, useSearch } from '@tanstack/react-router';
import { useMemo, useState } from 'react';
import { api, client, problemOf } from '../api/client';
import { useTouch } from '../api/touch';
import { matches } from '../desk/offer';
import { isEmpty, size, type Draft } from '../mapping/draft';
import { all, type Things } from '../mapping/things';
import { useDraft } from '../mapping/useDraft';
import { Finder } from '../ui/Finder';
import { FileButton } from '../ui/FileButton';
import { fileBody } from '../ui/files';
import { say } from '../ui/said';
import { counted } from '../ui/words';
import { namesIn } from '../followups/words';
import type { Known } from '../followups/parts';
import {
  Badge,
  buttonLook,
  Empty,
  Fault,
  Headline,
  Margin,
  Notice,
  Row,
  Rows,
  RowWords,
  Screen,
  Waiting,
} from '../ui/kit';
import type { Story } from './model';
import { OneStory } from './OneStory';
import type { TRIALS } from './search';
import { useSet } from './useRun';

type TrialOf = (typeof TRIALS)[number];

/** Trying as a stranger, and keeping the try. */
export function Rehearse() {
  const search = useSearch({ from: '/rehearse' });
  const grid = api.useQuery('get', '/api/mapping', undefined, { refetchInterval: 10_000 });
  const read = api.useQuery('get', '/api/mapping/things');
  const systems = api.useQuery('get', '/api/systems', undefined, { staleTime: 60_000 });
  const { draft } = useDraft(grid.data);
  const things = read.data as Things | undefined;
  const known = useMemo(
    (): Known | undefined =>
      things && {
        things,
        draft,
        names: namesIn(things, draft),
        columns: [],
        systems: (systems.data?.systems ?? []).map(({ id, title }) => ({ id, title })),
        lacking: { codes: false, fields: false, letters: false },
      },
    [things, draft, systems.data],
  );
  if (grid.data === undefined || known === undefined) {
    return (
      <Screen>
        <Headline>
          <h1>Rehearse</h1>
        </Headline>
        {grid.error === null && read.error === null ? (
          <Waiting what="the rehearsals" />
        ) : (
          <Fault error={grid.error ?? read.error} />
        )}
      </Screen>
    );
  }
  const shared = { draft, known, version: grid.data.version };
  if (search.which !== undefined) return <KeptStory key={search.which} id={search.which} {...shared} />;
  if (search.tries !== undefined && search.of !== undefined)
    return <Begun key={`${search.tries} ${search.of}`} of={search.tries} id={search.of} {...shared} />;
  if (search.person !== undefined) return <Recorded key={search.person} person={search.person} {...shared} />;
  return <All {...shared} />;
}

interface Shared {
  draft: Draft;
  known: Known;
  version: number;
}

function useTaken(): string[] {
  const { data } = api.useQuery('get', '/api/rehearsals');
  return (data ?? []).map(({ id }) => id);
}

function KeptStory({ id, ...shared }: Shared & { id: string }) {
  const { step } = useSearch({ from: '/rehearse' });
  const taken = useTaken();
  const read = api.useQuery('get', '/api/rehearsals/kept/{id}', { params: { path: { id } } });
  if (read.data === undefined) return <NotYet error={read.error} />;
  const { kept, story } = read.data;
  return (
    <OneStory
      key={kept.revision}
      first={story as unknown as Story}
      kept={kept}
      taken={taken}
      step={step}
      {...shared}
    />
  );
}

function Begun({ of, id, ...shared }: Shared & { of: TrialOf; id: string }) {
  const taken = useTaken();
  const read = api.useQuery('get', '/api/rehearsals/trial', { params: { query: { of, id } } });
  if (read.data === undefined) return <NotYet error={read.error} />;
  return (
    <OneStory first={read.data as unknown as Story} kept={undefined} taken={taken} step={0} {...shared} />
  );
}

function Recorded({ person, ...shared }: Shared & { person: string }) {
  const taken = useTaken();
  const read = api.useQuery('get', '/api/rehearsals/recorded', { params: { query: { person } } });
  if (read.data === undefined) return <NotYet error={read.error} />;
  return (
    <OneStory first={read.data as unknown as Story} kept={undefined} taken={taken} step={0} {...shared} />
  );
}

function NotYet({ error }: { error: unknown }) {
  return (
    <Screen>
      <Headline>
        <h1>Rehearse</h1>
      </Headline>
      {error === null ? <Waiting what="the story" /> : <Fault error={error} />}
      <Link to="/rehearse" search={{}}>
        All rehearsals
      </Link>
    </Screen>
  );
}

function All({ draft, known, version }: Shared) {
  const kept = api.useQuery('get', '/api/rehearsals');
  const set = useSet(draft);
  const outcomes = new Map((set.data ?? []).map((one) => [one.id, one]));
  const not = (set.data ?? []).filter((one) => !one.holds).length;
  return (
    <Screen
      margin={
        <Margin label="About rehearsals">
          <section className="grid gap-3">
            <h2 className="m-0">What a rehearsal is</h2>
            <p className="text-soft">
              A try as a stranger, in dated steps, with what should be so beside them. It may go a year ahead
              and runs in a moment. Nothing is kept of it, and no system and nobody is told anything.
            </p>
            <p className="text-soft">
              All of them run again whenever your draft changes, before every publish, and each night.
              Publishing although one is not as expected asks for why.
            </p>
          </section>
        </Margin>
      }
    >
      <Headline>
        <h1>Rehearse</h1>
        <p>
          {set.data === undefined || set.data.length === 0
            ? ''
            : `${set.data.length - not} as expected${not === 0 ? '' : `, ${not} not`}, ${
                isEmpty(draft)
                  ? version === 0
                    ? 'before anything is published'
                    : `under rulebook ${version}`
                  : `under your draft of ${counted(size(draft), 'change', 'changes')}`
              }`}
        </p>
      </Headline>
      <Beginnings known={known} />
      {kept.error !== null && <Fault error={kept.error} />}
      {set.error !== null && <Fault error={set.error} />}
      {kept.data?.length === 0 && (
        <Empty title="Nothing is kept yet.">
          Try something that you sell, look at what comes of it, and keep it: then it is run before every
          publish.
        </Empty>
      )}
      {kept.data !== undefined && kept.data.length > 0 && (
        <Rows>
          {kept.data.map((row) => {
            const came = outcomes.get(row.id);
            const first = came?.faults[0] ?? came?.not[0]?.sentence;
            return (
              <Row key={row.id}>
                <RowWords>
                  <Link
                    to="/rehearse"
                    search={{ which: row.id, ...(came?.not[0] !== undefined && { step: came.not[0].step }) }}
                  >
                    <strong>{row.title}</strong>
                  </Link>
                  <span>{first ?? `kept by ${row.keptBy}`}</span>
                </RowWords>
                {came === undefined ? (
                  <Badge tone="soft">running …</Badge>
                ) : came.faults.length > 0 ? (
                  <Badge tone="bad">cannot be run</Badge>
                ) : came.holds ? (
                  <Badge tone="good">
                    {came.expectations === 0 ? 'nothing is expected' : `all ${came.expectations} as expected`}
                  </Badge>
                ) : (
                  <Badge tone="bad">
                    {came.not.length} of {came.expectations} not so
                  </Badge>
                )}
              </Row>
            );
          })}
        </Rows>
      )}
    </Screen>
  );
}

const SORTS: { of: TrialOf; sort: 'product' | 'level' | 'course' }[] = [
  { of: 'PRODUCT', sort: 'product' },
  { of: 'LEVEL', sort: 'level' },
  { of: 'COURSE', sort: 'course' },
];

/** Where a story can begin: something that somebody new gets, or a file. */
function Beginnings({ known }: { known: Known }) {
  const navigate = useNavigate();
  const touch = useTouch();
  const [words, setWords] = useState('');
  const [fault, setFault] = useState<unknown>(null);
  const offered = SORTS.flatMap(({ of, sort }) =>
    all(known.things, known.draft, sort).map(({ id, title }) => ({ of, sort, id, title: title ?? id })),
  );
  const first = offered[0];
  const bring = async (file: File) => {
    const { data, error } = await client.POST('/api/rehearsals/file', fileBody(file, 'application/yaml'));
    setFault(error ?? null);
    if (data === undefined) return;
    say(`${data.title} is kept.`);
    await touch('rehearsals');
    void navigate({ to: '/rehearse', search: { which: data.id } });
  };
  return (
    <div className="mb-3 grid gap-2">
      <div className="flex flex-wrap items-center gap-2.5">
        <div className="w-80">
          <Finder
            label="Try a product, level or course"
            placeholder="try a product, level or course"
            words={words}
            onWords={setWords}
            found={offered.filter((one) => matches(words, one.title, one.id)).slice(0, 8)}
            idOf={(one) => `${one.sort}/${one.id}`}
            show={(one) => (
              <>
                {one.title} <span className="text-soft">{one.sort}</span>
              </>
            )}
            onChoose={(one) => void navigate({ to: '/rehearse', search: { tries: one.of, of: one.id } })}
            nothing="Nothing is called that."
          />
        </div>
        {first !== undefined && (
          <Link className={buttonLook({})} to="/rehearse" search={{ tries: first.of, of: first.id }}>
            Try {first.title}
          </Link>
        )}
        <FileButton
          label="Bring a story from a file"
          accept=".yaml,.yml,.json"
          disabled={false}
          onFile={(file) => void bring(file)}
        />
      </div>
      {fault !== null && (
        <Notice role="alert">
          <strong>{problemOf(fault).title}</strong>
          <span>{problemOf(fault).detail}</span>
        </Notice>
      )}
    </div>
  );
}
