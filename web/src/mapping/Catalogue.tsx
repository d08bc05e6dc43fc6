import { Link, useNavigate, useSearch } from '@tanstack/react-router';
import { useMemo, useState } from 'react';
import { counted } from '../ui/words';
import { cellOf, effectiveCells, isEmpty, type CellKey, type Draft } from './draft';
import { DraftMargin, type SetThings, type Shared } from './DraftMargin';
import { FromRows } from './FromRows';
import { NewThing } from './NewThing';
import { SchoolRules } from './SchoolRules';
import type { Terms } from './terms';
import { ThingPage } from './ThingPage';
import { all, SORT_WORDS, SORTS, type Named, type Sort, type Things } from './things';
import { Acts, Button, buttonLook, Empty, Headline, Input, Screen } from '../ui/kit';

/** What there is to map, thing by thing, and the rules of the school. Changes go into the same draft. */
export function Catalogue({ headline, ...shared }: Shared) {
  const { thing } = useSearch({ from: '/mapping' });
  const { grid, now, draft, change } = shared;
  const set: SetThings = (changes) =>
    change({ act: 'set', things: changes, published: now, version: grid.version });
  return (
    <Screen margin={<DraftMargin {...shared} />}>
      <Headline>
        {headline}
        {!isEmpty(draft) && draft.undo.length > 0 && (
          <Button small onClick={() => change({ act: 'undo' })}>
            Undo
          </Button>
        )}
      </Headline>
      {thing === undefined ? (
        <All {...shared} set={set} />
      ) : thing === 'school' ? (
        <SchoolRules {...shared} set={set} />
      ) : (
        <ThingPage key={thing} path={thing} {...shared} set={set} />
      )}
    </Screen>
  );
}

type Inside = Omit<Shared, 'headline'> & { set: SetThings };

function All(props: Inside) {
  const { grid, things, draft, now, set } = props;
  const navigate = useNavigate({ from: '/mapping' });
  const [words, setWords] = useState('');
  const counts = useMemo(() => linksOf(effectiveCells(draft, now)), [draft, now]);
  const listed = new Map(
    [...grid.sources.map((row) => [row.source, row.listed] as const)].concat(
      grid.targets.map((column) => [column.target, column.listed] as const),
    ),
  );
  const looked = words.trim().toLowerCase();
  const groups = SORTS.map((sort) => ({ sort, found: named(things, draft, sort, looked) }));
  return (
    <>
      <Acts className="items-center mb-3">
        <Input
          className="w-44"
          type="search"
          aria-label="Filter the catalogue"
          placeholder="Filter"
          value={words}
          onChange={(event) => setWords(event.target.value)}
        />
        <Link
          className={buttonLook({ small: true })}
          to="/mapping"
          search={{ view: 'catalogue', thing: 'school' }}
        >
          Rules of the school
        </Link>
        <NewThing
          things={things}
          draft={draft}
          onMake={(path, to) => {
            set([[path, to, null]]);
            void navigate({ search: { view: 'catalogue', thing: path } });
          }}
        />
      </Acts>
      <FromRows onTake={set} things={things} />
      {groups.every(({ found }) => found.length === 0) && (
        <Empty title={looked === '' ? 'The catalogue is empty yet.' : 'Nothing is called that.'}>
          {looked === '' && <p>Connect a shop and a classroom under Systems, or read rows from a file.</p>}
        </Empty>
      )}
      {groups.map(
        ({ sort, found }) =>
          found.length > 0 && (
            <section key={sort} className="mb-5">
              <h2>
                {SORT_WORDS[sort].many} <span className="text-soft">{found.length}</span>
              </h2>
              <ul className="gap-0 rounded-box border border-line bg-base-100 md:columns-2 2xl:columns-3">
                {found.map((thing) => (
                  <Row
                    key={thing.id}
                    sort={sort}
                    thing={thing}
                    changed={draft.things[`${sort}/${thing.id}`] !== undefined}
                    listed={listed.get(`${sort}/${thing.id}`)}
                    opens={counts.opens.get(`${sort}/${thing.id}`) ?? 0}
                    opened={counts.opened.get(`${sort}/${thing.id}`) ?? 0}
                    used={counts.used.get(thing.id) ?? 0}
                  />
                ))}
              </ul>
            </section>
          ),
      )}
    </>
  );
}

/** How many cells each thing stands in: as a source, as a target, as terms by name. */
function linksOf(cells: ReadonlyMap<CellKey, Terms>) {
  const opens = new Map<string, number>();
  const opened = new Map<string, number>();
  const used = new Map<string, number>();
  const more = (map: Map<string, number>, key: string) => map.set(key, (map.get(key) ?? 0) + 1);
  for (const [key, terms] of cells) {
    const [source, target] = cellOf(key);
    more(opens, source);
    more(opened, target);
    if (terms.named !== undefined) more(used, terms.named);
  }
  return { opens, opened, used };
}

function named(things: Things, draft: Draft, sort: Sort, words: string): Named[] {
  return all(things, draft, sort).filter((thing) =>
    [thing.title ?? '', thing.id].some((text) => text.toLowerCase().includes(words)),
  );
}

interface RowProps {
  sort: Sort;
  thing: Named;
  changed: boolean;
  listed: boolean | undefined;
  opens: number;
  opened: number;
  used: number;
}

function Row({ sort, thing, changed, listed, opens, opened, used }: RowProps) {
  const path = `${sort}/${thing.id}`;
  const facts = [
    sort === 'terms' && `used by ${counted(used, 'cell', 'cells')}`,
    opens > 0 && `opens ${opens}`,
    opened > 0 && counted(opened, 'way in', 'ways in'),
  ].filter(Boolean);
  return (
    <li className="grid break-inside-avoid grid-cols-[minmax(0,1fr)_auto] gap-x-2.5 px-3.5 py-1.5">
      <Link
        to="/mapping"
        search={{ view: 'catalogue', thing: path }}
        className="font-semibold no-underline hover:underline"
      >
        {thing.title ?? thing.id}
      </Link>
      <code className="self-center text-soft wrap-anywhere">{thing.id}</code>
      <span className="text-soft">{facts.join(' · ')}</span>
      {changed && <span className="justify-self-end text-warning">draft</span>}
      {listed === false && <span className="justify-self-end text-warning">in no system</span>}
    </li>
  );
}
