import { Link } from '@tanstack/react-router';
import { api } from '../api/client';
import { useMay } from '../session/may';
import { useSession } from '../session/session';
import { shownTime } from '../ui/dates';
import { Notice } from '../ui/kit';

const FEWEST_LETTERS = 3;

/** Who is not found may stand in a report that nobody could take up. */
export function UntakenNaming({ words }: { words: string }) {
  const { zone } = useSession();
  const { setUp } = useMay();
  const { data } = api.useQuery(
    'get',
    '/api/untaken',
    { params: { query: { q: words } } },
    { enabled: words.trim().length >= FEWEST_LETTERS },
  );
  if (data === undefined || data.length === 0) return null;
  return (
    <Notice as="section" aria-label="Reports that could not be taken up">
      <strong>“{words}” stands in what could not be taken up:</strong>
      <ul className="mt-1">
        {data.map((one) => (
          <li key={one.at + one.said}>
            {setUp ? (
              <Link
                className="link"
                to="/systems/$id"
                params={{ id: one.connection }}
                search={{ view: 'matching' }}
              >
                {one.system}
              </Link>
            ) : (
              one.system
            )}
            , {shownTime(one.at, zone)}: {one.said}
          </li>
        ))}
      </ul>
    </Notice>
  );
}
