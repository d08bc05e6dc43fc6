import { api } from '../api/client';
import { useMay } from '../session/may';
import { useSession } from '../session/session';
import { shownTime } from '../ui/dates';
import { Button, Fault } from '../ui/kit';
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
  return (
    <section aria-label="Follow-ups">
      <h2>Follow-ups</h2>
      {found.data !== undefined && found.data.length > 0 ? (
        <Runs runs={found.data} named={false} />
      ) : (
        <p className="text-soft">None has served them yet.</p>
      )}
      <UnaskedLetters person={person} />
    </section>
  );
}

/** Whether they want letters that answer nothing they did; somebody at the desk can say it for them. */
function UnaskedLetters({ person }: { person: number }) {
  const { zone } = useSession();
  const may = useMay();
  const of = { params: { path: { person } } };
  const choice = api.useQuery('get', '/api/followups/letters/{person}', of);
  const choose = api.useMutation('put', '/api/followups/letters/{person}', {
    onSettled: () => choice.refetch(),
  });
  if (choice.data === undefined) return null;
  const { stoppedAt, stoppedBy } = choice.data;
  return (
    <>
      <p className="mt-2 flex flex-wrap items-center gap-x-3 gap-y-1 text-soft">
        <span>
          {stoppedAt === undefined
            ? 'They also get letters that answer nothing they did.'
            : `They get no letters that answer nothing they did, since ${shownTime(stoppedAt, zone)}${stoppedBy === undefined ? '; they chose so themselves' : `; ${stoppedBy} noted it`}.`}
        </span>
        {may.act && (
          <Button
            small
            disabled={choose.isPending}
            onClick={() => choose.mutate({ ...of, body: { stopped: stoppedAt === undefined } })}
          >
            {stoppedAt === undefined ? 'Stop these letters' : 'They want them again'}
          </Button>
        )}
      </p>
      {choose.error !== null && <Fault error={choose.error} />}
    </>
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
