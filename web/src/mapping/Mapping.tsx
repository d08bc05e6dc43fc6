import { useTouch } from '../api/touch';
import { Link, useSearch } from '@tanstack/react-router';
import { useEffect, useMemo } from 'react';
import { api } from '../api/client';
import { FileButton } from '../ui/FileButton';
import { Catalogue } from './Catalogue';
import { published } from './draft';
import { Findings } from './Findings';
import { History } from './History';
import { withDrafted } from './shown';
import type { Things } from './things';
import { useDraft } from './useDraft';
import { useLoad } from './useLoad';
import { Workspace } from './Workspace';
import { Acts, buttonLook, Empty, Fault, Headline, Margin, Screen, Views, Waiting } from '../ui/kit';

/** What opens what. */
export function Mapping() {
  const { view } = useSearch({ from: '/mapping' });
  if (view === 'history') return <PastVersions />;
  return view === 'findings' ? <LookedOver /> : <Current />;
}

function Current() {
  const { view } = useSearch({ from: '/mapping' });
  const touch = useTouch();
  const read = api.useQuery('get', '/api/mapping/things');
  const { refetch } = read;
  const things = read.data as Things | undefined;
  const grid = api.useQuery('get', '/api/mapping', undefined, { refetchInterval: 10_000 });
  const own = useDraft(grid.data);
  const { draft } = own;
  const now = useMemo(() => published(grid.data?.cells ?? []), [grid.data]);
  const version = grid.data?.version;
  useEffect(() => void refetch(), [version, refetch]); // somebody else may have published
  if (grid.data === undefined || things === undefined) {
    return (
      <Screen>
        <Headline>
          <TitleAndViews />
        </Headline>
        {grid.error === null && read.error === null ? (
          <Waiting what="the mapping" />
        ) : (
          <Fault error={grid.error ?? read.error} />
        )}
      </Screen>
    );
  }
  const shared = {
    grid: grid.data,
    things,
    now,
    ...own,
    readAgain: () => touch('mapping'),
    headline: <TitleAndViews />,
  };
  if (view === 'catalogue') return <Catalogue {...shared} />;
  const { sources, targets } = withDrafted(grid.data, draft);
  const sellsSomething = sources.some((row) => row.sort === 'product');
  if (!sellsSomething || targets.length === 0) {
    return (
      <Screen>
        <Headline>
          <TitleAndViews />
        </Headline>
        <Empty title={sellsSomething ? 'There are no courses to open yet.' : 'There is nothing to sell yet.'}>
          <p>
            Products come from a connected shop, courses from a connected classroom. Their catalogues are read
            every two minutes. They can come from a file too.
          </p>
          <Link className={buttonLook()} to="/mapping" search={{ view: 'catalogue' }}>
            To the catalogue
          </Link>
        </Empty>
      </Screen>
    );
  }
  return <Workspace {...shared} />;
}

function LookedOver() {
  return (
    <Screen
      margin={
        <Margin label="About findings">
          <h2>What is looked for</h2>
          <p className="text-soft">
            The mapping in force, what was sold, and what the shops and classrooms list, looked over together.
            What you accept with a reason stays quiet until what it rests on changes.
          </p>
          <p className="text-soft">
            <code>./yoru check</code> looks a rulebook in a file over in the same way.
          </p>
        </Margin>
      }
    >
      <Headline>
        <TitleAndViews />
      </Headline>
      <Findings />
    </Screen>
  );
}

function PastVersions() {
  return (
    <Screen
      margin={
        <Margin label="About the history">
          <h2>What a publish is</h2>
          <p className="text-soft">
            Nothing on the grid changes anything until it is published. Each publish makes a new rulebook;
            everybody whom it concerns is then computed anew from all that ever happened, as if the rules had
            always been so.
          </p>
          <p className="text-soft">
            The figures say how many people gained, lost, or got more or less time at that moment. Taking a
            publish back makes a draft of the way back, with its consequence; nothing happens before you
            publish it.
          </p>
          <RulebookFile />
        </Margin>
      }
    >
      <Headline>
        <TitleAndViews />
      </Headline>
      <History />
    </Screen>
  );
}

/** The whole mapping as a file, to keep, to compare, to bring to another school. */
function RulebookFile() {
  const load = useLoad();
  return (
    <section>
      <h2>The mapping as a file</h2>
      <p className="text-soft">
        YAML, always in the same order, so that it can be kept and compared. Read from a file it becomes a
        draft.
      </p>
      <Acts className="items-center">
        <a className={buttonLook({ small: true })} href="/api/mapping/rulebook" download="rulebook.yaml">
          Save as a file
        </a>
        <FileButton
          label="From a file"
          accept=".yaml,.yml,.json"
          disabled={load.isPending}
          onFile={load.readFile}
        />
      </Acts>
      {load.error !== null && <Fault error={load.error} />}
    </section>
  );
}

function TitleAndViews() {
  return (
    <>
      <h1>Mapping</h1>
      <Views aria-label="Views of the mapping">
        <Link to="/mapping" search={{}} activeOptions={{ exact: true, includeSearch: true }}>
          Grid
        </Link>
        <Link to="/mapping" search={{ view: 'by-source' }}>
          By source
        </Link>
        <Link to="/mapping" search={{ view: 'by-target' }}>
          By target
        </Link>
        <Link to="/mapping" search={{ view: 'catalogue' }}>
          Catalogue
        </Link>
        <Link to="/mapping" search={{ view: 'findings' }}>
          Findings
        </Link>
        <Link to="/mapping" search={{ view: 'history' }}>
          History
        </Link>
      </Views>
    </>
  );
}
