import { api } from '../api/client';
import { Fault } from '../ui/kit';
import { Runs } from './Runs';

/** What follow-ups did for somebody and will do, with the reasons; nothing where they did nothing. */
export function FollowupsOf({ person }: { person: number }) {
  const found = api.useQuery(
    'get',
    '/api/followups/of/{person}',
    { params: { path: { person } } },
    { refetchInterval: 10_000 },
  );
  if (found.error !== null) return <Fault error={found.error} />;
  if (found.data === undefined || found.data.length === 0) return null;
  return (
    <section aria-label="Follow-ups">
      <h2>Follow-ups</h2>
      <Runs runs={found.data} named={false} />
    </section>
  );
}

/** The same of an order. */
export function FollowupsOfOrder({ order }: { order: string }) {
  const found = api.useQuery(
    'get',
    '/api/followups/of-order/{order}',
    { params: { path: { order } } },
    { refetchInterval: 10_000 },
  );
  if (found.data === undefined || found.data.length === 0) return null;
  return (
    <section aria-label="Follow-ups">
      <h2>Follow-ups</h2>
      <Runs runs={found.data} />
    </section>
  );
}
