import { useQueryClient } from '@tanstack/react-query';
import { Link, useSearch } from '@tanstack/react-router';
import { useMemo } from 'react';
import { api } from '../api/client';
import { Empty, Fault, Margin, Screen, Waiting } from '../ui/parts';
import { counted } from '../ui/words';
import { published } from './draft';
import { History } from './History';
import { Workspace } from './Workspace';

/** What opens what. */
export function Mapping() {
  const { view } = useSearch({ from: '/mapping' });
  return view === 'history' ? <PastVersions /> : <Current />;
}

function Current() {
  const queries = useQueryClient();
  const grid = api.useQuery('get', '/api/mapping', undefined, { refetchInterval: 10_000 });
  const now = useMemo(() => published(grid.data?.cells ?? []), [grid.data]);
  if (grid.data === undefined) {
    return (
      <Screen>
        <div className="headline">
          <Headline />
        </div>
        {grid.error === null ? <Waiting what="the mapping" /> : <Fault error={grid.error} />}
      </Screen>
    );
  }
  const sellsSomething = grid.data.sources.some((row) => row.sort === 'product');
  if (!sellsSomething || grid.data.targets.length === 0) {
    return (
      <Screen>
        <div className="headline">
          <Headline />
        </div>
        <Empty title={sellsSomething ? 'There are no courses to open yet.' : 'There is nothing to sell yet.'}>
          <p>
            Products come from a connected shop, courses from a connected classroom. Their catalogues are read
            every two minutes.
          </p>
        </Empty>
      </Screen>
    );
  }
  return (
    <Workspace
      grid={grid.data}
      now={now}
      readAgain={() => queries.invalidateQueries()}
      headline={
        <Headline
          says={`${counted(grid.data.sources.length, 'source', 'sources')} · ${counted(grid.data.targets.length, 'target', 'targets')} · rulebook ${grid.data.version}`}
        />
      }
    />
  );
}

function PastVersions() {
  return (
    <Screen
      margin={
        <Margin label="About the history">
          <h2>What a publish is</h2>
          <p className="soft">
            Nothing on the grid changes anything until it is published. Each publish makes a new rulebook;
            everybody is then computed anew from all that ever happened, as if the rules had always been so.
          </p>
          <p className="soft">
            The figures say how many people gained, lost, or got another end at that moment.
          </p>
        </Margin>
      }
    >
      <div className="headline">
        <Headline />
      </div>
      <History />
    </Screen>
  );
}

function Headline({ says }: { says?: string }) {
  return (
    <>
      <h1>Mapping</h1>
      <nav className="views" aria-label="Views of the mapping">
        <Link to="/mapping" search={{}} activeOptions={{ exact: true, includeSearch: true }}>
          Grid
        </Link>
        <Link to="/mapping" search={{ view: 'history' }}>
          History
        </Link>
      </nav>
      {says !== undefined && <p>{says}</p>}
    </>
  );
}
