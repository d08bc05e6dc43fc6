import { Link } from '@tanstack/react-router';
import { api, type Schemas } from '../api/client';
import { useMay } from '../session/may';
import { useSession } from '../session/session';
import { shownDate } from '../ui/dates';
import { Empty, Fault, Screen, Waiting } from '../ui/parts';
import { exactMoney } from '../ui/words';
import { standing } from './words';

/** What people were offered; those that wait for an answer first. */
export function Quotes() {
  const { act } = useMay();
  const quotes = api.useQuery('get', '/api/quotes', {}, { refetchInterval: 5_000 });
  return (
    <Screen>
      <div className="headline headline-wide">
        <h1>Quotes</h1>
        <p>an offer opens nothing; when it is agreed to it becomes an order</p>
        <div className="acts">
          <Link to="/orders" className="btn btn-sm">
            Orders
          </Link>
          {act && (
            <Link to="/orders/by-hand" className="btn btn-primary btn-sm">
              Order by hand
            </Link>
          )}
        </div>
      </div>
      {quotes.error !== null && <Fault error={quotes.error} />}
      {quotes.data === undefined && quotes.error === null && <Waiting what="the quotes" />}
      {quotes.data?.quotes.length === 0 && (
        <Empty title="Nobody was offered anything yet.">
          <p>Fill in an order by hand that is to be paid later, and keep it as a quote.</p>
        </Empty>
      )}
      {quotes.data !== undefined && quotes.data.quotes.length > 0 && (
        <div className="rows">
          {quotes.data.quotes.map((quote) => (
            <Row key={quote.id} quote={quote} />
          ))}
        </div>
      )}
    </Screen>
  );
}

function Row({ quote }: { quote: Schemas['ListedQuote'] }) {
  const { zone } = useSession();
  return (
    <div className="row row-small">
      <div className="row-words">
        <Link to="/quotes/$id" params={{ id: String(quote.id) }}>
          Quote {quote.id}
        </Link>
        <span>{quote.name}</span>
      </div>
      <span className="soft">{shownDate(quote.madeAt, zone)}</span>
      <span>{exactMoney(quote.total, quote.currency)}</span>
      <span className={quote.expired ? 'warn' : 'soft'}>{standing(quote)}</span>
    </div>
  );
}
