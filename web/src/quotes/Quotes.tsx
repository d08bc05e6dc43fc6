import { Link } from '@tanstack/react-router';
import { api, type Schemas } from '../api/client';
import { useMay } from '../session/may';
import { useSession } from '../session/session';
import { shownDate } from '../ui/dates';
import { exactMoney } from '../ui/words';
import { standing } from './words';
import { Acts, buttonLook, Empty, Fault, Headline, Row, Rows, RowWords, Screen, Waiting } from '../ui/kit';

/** What people were offered; those that wait for an answer first. */
export function Quotes() {
  const { act } = useMay();
  const quotes = api.useQuery('get', '/api/quotes', {}, { refetchInterval: 5_000 });
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
      {quotes.data === undefined && quotes.error === null && <Waiting what="the quotes" />}
      {quotes.data?.quotes.length === 0 && (
        <Empty title="Nobody was offered anything yet.">
          <p>Fill in an order by hand that is to be paid later, and keep it as a quote.</p>
        </Empty>
      )}
      {quotes.data !== undefined && quotes.data.quotes.length > 0 && (
        <Rows as="div">
          {quotes.data.quotes.map((quote) => (
            <QuoteRow key={quote.id} quote={quote} />
          ))}
        </Rows>
      )}
    </Screen>
  );
}

function QuoteRow({ quote }: { quote: Schemas['ListedQuote'] }) {
  const { zone } = useSession();
  return (
    <Row as="div" className="min-h-9 py-1">
      <RowWords>
        <Link to="/quotes/$id" params={{ id: String(quote.id) }}>
          Quote {quote.id}
        </Link>
        <span>{quote.name}</span>
      </RowWords>
      <span className="text-soft">{shownDate(quote.madeAt, zone)}</span>
      <span>{exactMoney(quote.total, quote.currency)}</span>
      <span className={quote.expired ? 'text-warning' : 'text-soft'}>{standing(quote)}</span>
    </Row>
  );
}
