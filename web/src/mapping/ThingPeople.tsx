import { Link } from '@tanstack/react-router';
import { api, type Schemas } from '../api/client';
import { useSession } from '../session/session';
import { dayOf, shownDate } from '../ui/dates';
import { lastMonths, monthInWords } from '../ui/months';
import { counted } from '../ui/words';
import { Facts, Fault } from '../ui/kit';

const MONTHS_SHOWN = 18;

export function People({
  people: { many, latest },
  nobody,
  some,
}: {
  people: Schemas['People'];
  nobody: string;
  some: string;
}) {
  const { zone } = useSession();
  return (
    <section>
      <h3>{many === 0 ? nobody : some}</h3>
      <Facts className="block columns-3 [&>li]:break-inside-avoid [&>li]:py-1">
        {latest.map((one) => (
          <li key={one.person}>
            <Link to="/people/$id" params={{ id: String(one.person) }}>
              {one.name}
            </Link>{' '}
            <span>{shownDate(one.at, zone)}</span>
          </li>
        ))}
      </Facts>
      {many > latest.length && <p className="text-soft">and {many - latest.length} more</p>}
    </section>
  );
}

/** Who has a thing at the moment, and for how long; of a level with choices also how many places they use. */
export function Holders({ path }: { path: string }) {
  const { zone } = useSession();
  const found = api.useQuery('get', '/api/holders', { params: { query: { target: path } } });
  if (found.error !== null) return <Fault error={found.error} />;
  if (found.data === undefined) return null;
  const { now, later, before, latest } = found.data;
  const besides = [
    later > 0 && counted(later, 'will have it', 'will have it'),
    before > 0 && counted(before, 'had it', 'had it'),
  ].filter((words) => words !== false);
  return (
    <section>
      <h3>
        {now === 0 ? 'Nobody has it at the moment' : counted(now, 'person has it', 'people have it')}
        {besides.length > 0 && <small className="font-normal text-soft"> · {besides.join(' · ')}</small>}
      </h3>
      <Facts className="block columns-1 sm:columns-2 xl:columns-3 [&>li]:break-inside-avoid [&>li]:py-1">
        {latest.map((one) => (
          <li key={`${one.person}-${one.since}`}>
            <Link to="/people/$id" params={{ id: String(one.person) }}>
              {one.name}
            </Link>{' '}
            <span>
              since {shownDate(one.since, zone)}
              {until(one, zone)}
              {one.places !== undefined && `, ${one.places.taken} of ${one.places.of} chosen`}
            </span>
          </li>
        ))}
      </Facts>
      {now > latest.length && <p className="text-soft">and {now - latest.length} more</p>}
    </section>
  );
}

function until({ until: end, renews }: Schemas['Holder'], zone: string): string {
  if (end === undefined) return '';
  return renews ? `, paid until ${shownDate(end, zone)}` : `, until ${shownDate(end, zone)}`;
}

/** How many orders of a month name a product, as bars. */
export function Ordered({ ordered }: { ordered: Schemas['Ordered'][] }) {
  const { now, zone } = useSession();
  if (ordered.length === 0) return null;
  const months = lastMonths(dayOf(now, zone).toString(), MONTHS_SHOWN).map((month) => ({
    month,
    many: ordered.find((one) => one.month === month)?.many ?? 0,
  }));
  const most = Math.max(1, ...months.map(({ many }) => many));
  return (
    <section>
      <h3>Orders a month</h3>
      <ol className="flex h-28 items-end gap-1">
        {months.map(({ month, many }, at) => (
          <li key={month} className="flex h-full min-w-0 flex-1 flex-col justify-end text-center text-2xs">
            <span className="sr-only">{monthInWords(month)}:</span>
            <span className={many === 0 ? 'sr-only' : 'text-soft'}>{many}</span>
            <span
              aria-hidden="true"
              className="rounded-t-sm bg-accent"
              style={{ height: `${(many / most) * 70}%` }}
            />
            <span aria-hidden="true" className="h-4 border-t border-line text-soft">
              {at % 3 === 0 ? monthInWords(month).slice(0, 3) : ''}
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}
