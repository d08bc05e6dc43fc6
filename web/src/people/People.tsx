import { Link, useNavigate, useSearch } from '@tanstack/react-router';
import { api, type Schemas } from '../api/client';
import { useAsOf } from '../band/asOf';
import type { PeopleSearch } from './search';
import { useSession } from '../session/session';
import { shownDate } from '../ui/dates';
import { Pages } from '../ui/Pages';
import { UntakenNaming } from '../today/UntakenNaming';
import { SearchField } from '../ui/SearchField';
import { counted } from '../ui/words';
import { DataTable, type Column } from '../ui/DataTable';
import { Acts, buttonLook, Empty, Fault, Headline, Screen, Waiting } from '../ui/kit';

/** Everybody who ever bought or got something, as of the lamp's day. */
export function People() {
  const search = useSearch({ from: '/people' });
  const navigate = useNavigate({ from: '/people' });
  const asOf = useAsOf();
  const { zone } = useSession();
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
      <Headline>
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
        <Acts>
          <Link className={buttonLook({ small: true })} to="/people/segments">
            Segments
          </Link>
          <a
            className={buttonLook({ small: true })}
            href={`/api/people.csv?${new URLSearchParams({ q, ...(asOf.instant !== undefined && { at: asOf.instant }) }).toString()}`}
            download
          >
            As CSV
          </a>
        </Acts>
      </Headline>
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
          <DataTable
            name="people"
            label="People"
            columns={columns(zone)}
            rows={data.people}
            idOf={(person) => String(person.id)}
            sort={sort}
            onSort={(next) => change({ sort: next })}
          />
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

function columns(zone: string): Column<Schemas['PersonRow'], NonNullable<PeopleSearch['sort']>>[] {
  return [
    {
      id: 'name',
      title: 'Name',
      sort: 'NAME',
      upwards: true,
      always: true,
      show: (person) => (
        <Link to="/people/$id" params={{ id: String(person.id) }} className="font-semibold no-underline">
          {person.name}
        </Link>
      ),
    },
    {
      id: 'address',
      title: 'Address',
      show: (person) => <span className="text-soft">{person.key}</span>,
    },
    { id: 'open', title: 'Open', sort: 'OPEN', number: true, show: (person) => person.open },
    { id: 'orders', title: 'Orders', number: true, show: (person) => person.orders },
    {
      id: 'ends',
      title: 'First to end',
      sort: 'ENDS',
      upwards: true,
      show: (person) =>
        person.nextEnd === undefined ? (
          <span className="text-soft">none</span>
        ) : (
          shownDate(person.nextEnd, zone)
        ),
    },
    { id: 'since', title: 'Here since', sort: 'NEWEST', show: (person) => shownDate(person.since, zone) },
  ];
}
