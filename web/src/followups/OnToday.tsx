import { Link } from '@tanstack/react-router';
import { api } from '../api/client';
import { useSession } from '../session/session';
import { fromNow, shownTime } from '../ui/dates';
import { Row, Rows, RowWords } from '../ui/kit';
import { Runs } from './Runs';

/** Runs that cannot go on by themselves, and what the team was told lately. */
export function FollowupsOnToday({ now }: { now: number }) {
  const { zone } = useSession();
  const { data } = api.useQuery('get', '/api/followups/today', undefined, { refetchInterval: 10_000 });
  if (data === undefined) return null;
  return (
    <>
      {data.heldUp.length > 0 && (
        <section aria-label="Follow-ups that are held up">
          <h2>Follow-ups that are held up</h2>
          <Runs runs={data.heldUp} />
        </section>
      )}
      {data.told.length > 0 && (
        <section aria-label="Told to the team">
          <h2>Told to the team</h2>
          <Rows>
            {data.told.map((one) => (
              <Row key={`${one.run} ${one.at}`}>
                <RowWords>
                  <strong>{one.text}</strong>
                  <span>
                    <Link to="/people/$id" params={{ id: String(one.person) }}>
                      {one.name}
                    </Link>{' '}
                    · {one.title}
                  </span>
                </RowWords>
                <time className="text-soft" dateTime={one.at} title={shownTime(one.at, zone)}>
                  {fromNow(one.at, now)}
                </time>
              </Row>
            ))}
          </Rows>
        </section>
      )}
    </>
  );
}
