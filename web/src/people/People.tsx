import { Link, useNavigate, useSearch } from '@tanstack/react-router';
import { api, type Schemas } from '../api/client';
import { useAsOf } from '../band/asOf';
import type { PeopleSearch } from '../router';
import { useSession } from '../session/session';
import { shownDate } from '../ui/dates';
import { Pages } from '../ui/Pages';
import { SortedHead, type Column } from '../ui/SortedHead';
import { Empty, Fault, Screen, Waiting } from '../ui/parts';
import { UntakenNaming } from '../today/UntakenNaming';
import { SearchField } from '../ui/SearchField';
import { counted } from '../ui/words';

const COLUMNS: Column<NonNullable<PeopleSearch['sort']>>[] = [
  { title: 'Name', sort: 'NAME', upwards: true },
  { title: 'Open', sort: 'OPEN', number: true },
  { title: 'Orders', number: true },
  { title: 'First to end', sort: 'ENDS', upwards: true },
  { title: 'Here since', sort: 'NEWEST' },
];

/** Everybody who ever bought or got something, as of the lamp's day. */
export function People() {
  const search = useSearch({ from: '/people' });
  const navigate = useNavigate({ from: '/people' });
  const asOf = useAsOf();
  const { q = '', sort = 'NEWEST', page = 0 } = search;
  const people = api.useQuery(
    'get',
    '/api/people',
    { params: { query: { q, sort, page, ...(asOf.instant !== undefined && { at: asOf.instant }) } } },
    { placeholderData: (previous) => previous, refetchInterval: asOf.instant === undefined ? 5_000 : false },
  );
  const change = (next: PeopleSearch) =>
    void navigate({ search: (previous) => ({ ...previous, page: undefined, ...next }), replace: true });
  const data = people.data;
  return (
    <Screen>
      <div className="headline headline-wide">
        <h1>People</h1>
        {data !== undefined && (
          <p>
            {q === '' ? counted(data.total, 'person', 'people') : `${data.total} of that name or address`}
          </p>
        )}
        <SearchField
          label="Find by name or address"
          placeholder="Name or address"
          value={q}
          onChange={(words) => change({ q: words })}
        />
        <div className="acts">
          <Link className="btn btn-sm" to="/people/segments">
            Segments
          </Link>
          <a
            className="btn btn-sm"
            href={`/api/people.csv?${new URLSearchParams({ q, ...(asOf.instant !== undefined && { at: asOf.instant }) }).toString()}`}
            download
          >
            As CSV
          </a>
        </div>
      </div>
      <UntakenNaming words={q} />
      {people.error !== null && <Fault error={people.error} />}
      {data === undefined && people.error === null && <Waiting what="the people" />}
      {data?.total === 0 && (
        <Empty title={q === '' ? 'Nobody is here yet.' : `Nobody is called “${q}”.`}>
          <p>
            {q === ''
              ? 'People appear when a connected shop reports their first order.'
              : 'The search looks into names and addresses, a few letters are enough.'}
          </p>
        </Empty>
      )}
      {data !== undefined && data.total > 0 && (
        <>
          <Table people={data.people} sort={sort} onSort={(next) => change({ sort: next })} />
          <Pages
            total={data.total}
            pageSize={data.pageSize}
            page={page}
            onPage={(next) => change({ page: next })}
          />
        </>
      )}
    </Screen>
  );
}

interface TableProps {
  people: Schemas['PersonRow'][];
  sort: PeopleSearch['sort'];
  onSort: (sort: NonNullable<PeopleSearch['sort']>) => void;
}

function Table({ people, sort, onSort }: TableProps) {
  const { zone } = useSession();
  return (
    <table className="list">
      <SortedHead columns={COLUMNS} sort={sort} onSort={onSort} />
      <tbody>
        {people.map((person) => (
          <tr key={person.id}>
            <td>
              <Link to="/people/$id" params={{ id: String(person.id) }}>
                {person.name}
              </Link>
              <span className="soft">{person.key}</span>
            </td>
            <td className="number">{person.open}</td>
            <td className="number">{person.orders}</td>
            <td>
              {person.nextEnd === undefined ? (
                <span className="soft">none</span>
              ) : (
                shownDate(person.nextEnd, zone)
              )}
            </td>
            <td>{shownDate(person.since, zone)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
