import { Link, useNavigate, useSearch } from '@tanstack/react-router';
import { api, type Schemas } from '../api/client';
import { useMay } from '../session/may';
import { useSession } from '../session/session';
import { DataTable, type Column } from '../ui/DataTable';
import { readDay, shownDate, shownDay } from '../ui/dates';
import { Pages } from '../ui/Pages';
import { counted, exactMoney } from '../ui/words';
import type { QuotesSearch } from './search';
import { standing } from './words';
import { Acts, buttonLook, Empty, Fault, Headline, Screen, Waiting } from '../ui/kit';

/** What people were offered; those that wait for an answer first. */
export function Quotes() {
  const { act } = useMay();
  const { zone } = useSession();
  const { sort = 'WAITING', page = 0 } = useSearch({ from: '/quotes' });
  const navigate = useNavigate({ from: '/quotes' });
  const quotes = api.useQuery(
    'get',
    '/api/quotes',
    { params: { query: { sort, page } } },
    { refetchInterval: 5_000, placeholderData: (previous) => previous },
  );
  const change = (next: QuotesSearch) =>
    void navigate({ search: (previous) => ({ ...previous, page: undefined, ...next }), replace: true });
  const data = quotes.data;
  return (
    <Screen>
      <Headline>
        <h1>Quotes</h1>
        <p>an offer opens nothing; when it is agreed to it becomes an order</p>
        <Acts>
          <Link to="/orders" className={buttonLook({ small: true })}>
            Orders
          </Link>
          {act && (
            <Link to="/orders/by-hand" className={buttonLook({ kind: 'main', small: true })}>
              Order by hand
            </Link>
          )}
        </Acts>
      </Headline>
      {quotes.error !== null && <Fault error={quotes.error} />}
      {data === undefined && quotes.error === null && <Waiting what="the quotes" />}
      {data?.total === 0 && (
        <Empty title="Nobody was offered anything yet.">
          <p>Fill in an order by hand that is to be paid later, and keep it as a quote.</p>
        </Empty>
      )}
      {data !== undefined && data.total > 0 && (
        <>
          <DataTable
            name="quotes"
            label="Quotes"
            columns={columns(zone)}
            rows={data.quotes}
            idOf={(quote) => String(quote.id)}
            sort={sort}
            onSort={(next) => change({ sort: next })}
          >
            {counted(data.open, 'quote waits', 'quotes wait')} for an answer
          </DataTable>
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

function columns(zone: string): Column<Schemas['ListedQuote'], NonNullable<QuotesSearch['sort']>>[] {
  return [
    {
      id: 'quote',
      title: 'Quote',
      sort: 'NEWEST',
      always: true,
      show: (quote) => (
        <Link
          to="/quotes/$id"
          params={{ id: String(quote.id) }}
          className="font-semibold whitespace-nowrap no-underline"
        >
          Quote {quote.id}
        </Link>
      ),
    },
    { id: 'for', title: 'For', show: (quote) => quote.name },
    {
      id: 'made',
      title: 'Made',
      show: (quote) => (
        <span className="text-soft">
          {shownDate(quote.madeAt, zone)} by {quote.madeBy}
        </span>
      ),
    },
    {
      id: 'until',
      title: 'Holds until',
      sort: 'UNTIL',
      upwards: true,
      show: ({ validUntil }) => {
        const day = readDay(validUntil);
        return day === undefined ? <span className="text-soft">it does not end</span> : shownDay(day);
      },
    },
    {
      id: 'standing',
      title: 'Standing',
      sort: 'WAITING',
      show: (quote) => (
        <span className={quote.expired ? 'text-warning' : 'text-soft'}>{standing(quote)}</span>
      ),
    },
    {
      id: 'total',
      title: 'Total',
      sort: 'TOTAL',
      number: true,
      show: (quote) => exactMoney(quote.total, quote.currency),
    },
  ];
}
