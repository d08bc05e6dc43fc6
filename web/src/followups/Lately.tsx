import { Link } from '@tanstack/react-router';
import { api } from '../api/client';
import { Empty, Fault, Views, Waiting } from '../ui/kit';
import { RUN_STATES } from './search';
import { Runs } from './Runs';

type State = (typeof RUN_STATES)[number];

const WORDS: Record<State, string> = {
  HELD_UP: 'Held up',
  GOING: 'Under way',
  WAITING: 'Waiting',
  DONE: 'Done',
  STOPPED: 'Stopped',
};

/** What follow-ups did, the latest first, by state. */
export function Lately({
  which,
  state,
  page = 1,
}: {
  which?: string | undefined;
  state?: State | undefined;
  page?: number | undefined;
}) {
  const found = api.useQuery(
    'get',
    '/api/followups/runs',
    {
      params: {
        query: {
          ...(which !== undefined && { followup: which }),
          ...(state !== undefined && { state }),
          page: page - 1,
        },
      },
    },
    { refetchInterval: 5_000, placeholderData: (previous) => previous },
  );
  const here = { ...(which !== undefined && { which }), view: 'lately' as const };
  const search = (more: { state?: State; page?: number }) => ({ ...here, ...more });
  return (
    <section aria-label="Lately">
      <Views aria-label="Runs by state">
        <Link to="/followups" search={here} activeOptions={{ exact: true, includeSearch: true }}>
          All
        </Link>
        {RUN_STATES.map((one) => (
          <Link key={one} to="/followups" search={search({ state: one })}>
            {WORDS[one]}
          </Link>
        ))}
      </Views>
      <div className="mt-3">
        {found.error !== null && <Fault error={found.error} />}
        {found.data === undefined ? (
          found.error === null && <Waiting what="the runs" />
        ) : found.data.runs.length === 0 ? (
          <Empty
            title={
              state === undefined ? 'Nothing was done yet.' : `Nothing is ${WORDS[state].toLowerCase()}.`
            }
          >
            <p>A follow-up runs when what it waits for has happened to somebody.</p>
          </Empty>
        ) : (
          <Runs runs={found.data.runs} />
        )}
      </div>
      {found.data !== undefined && (page > 1 || found.data.more) && (
        <nav className="mt-3 flex gap-3" aria-label="Pages">
          {page > 1 && (
            <Link
              to="/followups"
              search={search({ ...(state !== undefined && { state }), ...(page > 2 && { page: page - 1 }) })}
            >
              Later ones
            </Link>
          )}
          {found.data.more && (
            <Link to="/followups" search={search({ ...(state !== undefined && { state }), page: page + 1 })}>
              Earlier ones
            </Link>
          )}
        </nav>
      )}
    </section>
  );
}
