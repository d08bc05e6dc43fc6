import { Link, useNavigate, useParams } from '@tanstack/react-router';
import { useTouch } from '../api/touch';
import { api, type Schemas } from '../api/client';
import { WhatFollows } from '../desk/WhatFollows';
import { useMay } from '../session/may';
import { useSession } from '../session/session';
import { shownDate } from '../ui/dates';
import { Addressee, ItemLines, itemsInWords, mailTo, SumLine } from '../ui/Items';
import { PrintButton } from '../ui/PrintButton';
import { standing } from './words';
import { Acts, Button, buttonLook, Fault, Headline, Margin, Screen, Waiting } from '../ui/kit';

/** One offer, with what would come of it. */
export function Quote() {
  const { id } = useParams({ from: '/quotes/$id' });
  const { zone, school } = useSession();
  const may = useMay();
  const number = Number(id);
  const quote = api.useQuery('get', '/api/quotes/{id}', {
    params: { path: { id: Number.isSafeInteger(number) ? number : 0 } },
  });
  const data = quote.data;
  if (data === undefined) {
    return (
      <Screen>
        {quote.error === null ? <Waiting what="the quote" /> : <Fault error={quote.error} />}
        <Link to="/quotes">To all quotes</Link>
      </Screen>
    );
  }
  const { quote: shown, lines } = data;
  return (
    <Screen
      margin={
        <Margin label="What will happen">
          {shown.state === 'OPEN' && may.act ? (
            <Decide quote={data} />
          ) : (
            <section className="[&>p]:mt-2 [&>p]:text-soft">
              <h2>{shown.state === 'OPEN' ? 'It waits for an answer' : 'It is decided'}</h2>
              {shown.order !== undefined && (
                <p>
                  It became{' '}
                  <Link to="/orders/$id" params={{ id: shown.order }}>
                    order {shown.order}
                  </Link>
                  : invoice and payment are entered there.
                </p>
              )}
            </section>
          )}
        </Margin>
      }
    >
      <Headline>
        <h1>Quote {shown.id}</h1>
        <p>{standing(shown)}</p>
        <Acts>
          {shown.state === 'OPEN' && <WriteToThem quote={data} />}
          <PrintButton />
        </Acts>
      </Headline>
      <p className="hidden text-lg font-semibold print:block">{school}</p>
      <Addressee word="For" name={shown.name} address={shown.person} />
      <p className="text-soft">
        made by {shown.madeBy} on {shownDate(shown.madeAt, zone)}
        {shown.validUntil === undefined ? '' : `, holds until ${shownDate(shown.validUntil, zone)}`}
      </p>
      <ItemLines lines={itemsOf(lines)} currency={shown.currency} />
      <SumLine strong words="Total" amount={shown.total} currency={shown.currency} />
    </Screen>
  );
}

function itemsOf(lines: Schemas['QuotedLine'][]) {
  return lines.map((line) => ({ ...line, amount: line.price * line.quantity - (line.off ?? 0) }));
}

/** A letter in one's own mail program, with the offer in it. */
function WriteToThem({ quote: { quote, lines } }: { quote: Schemas['ShownQuote'] }) {
  const { school, zone } = useSession();
  const body = [
    `Hello ${quote.name},`,
    '',
    'this is what we offer:',
    '',
    ...itemsInWords(itemsOf(lines), quote.total, quote.currency),
    ...(quote.validUntil === undefined ? [] : ['', `It holds until ${shownDate(quote.validUntil, zone)}.`]),
    '',
    school,
  ];
  return (
    <a
      className={buttonLook({ small: true })}
      href={mailTo(quote.person, `Quote ${quote.id}, ${school}`, body)}
    >
      Write to them
    </a>
  );
}

/** What agreeing would do, and the two answers. */
function Decide({ quote }: { quote: Schemas['ShownQuote'] }) {
  const touch = useTouch();
  const navigate = useNavigate();
  const path = { params: { path: { id: quote.quote.id } } };
  const consequence = api.useQuery('post', '/api/desk/consequence', { body: quote.sheet }, { retry: false });
  const settled = { onSettled: () => touch('access') };
  const agree = api.useMutation('post', '/api/quotes/{id}/agree', {
    ...settled,
    onSuccess: (answer: Schemas['ShownQuote']) => {
      if (answer.quote.order !== undefined)
        void navigate({ to: '/orders/$id', params: { id: answer.quote.order } });
    },
  });
  const decline = api.useMutation('post', '/api/quotes/{id}/decline', settled);
  const refusals = consequence.data?.refusals ?? [];
  const busy = agree.isPending || decline.isPending;
  return (
    <section>
      <h2>When it is agreed to</h2>
      {quote.quote.expired && (
        <p className="text-warning" role="status">
          It held until a day that is over. Agree only if its prices still stand.
        </p>
      )}
      {refusals.map((refusal) => (
        <p key={refusal.problem} className="text-warning" role="status">
          {refusal.problem}
        </p>
      ))}
      {consequence.data !== undefined && refusals.length === 0 && (
        <WhatFollows consequence={consequence.data} />
      )}
      {[consequence.error, agree.error, decline.error].map(
        (error, at) => error !== null && <Fault key={at} error={error} />,
      )}
      <Acts>
        <Button
          kind="main"
          disabled={busy || consequence.data === undefined || refusals.length > 0}
          onClick={() => agree.mutate(path)}
        >
          They agree: make the order
        </Button>
        <Button disabled={busy} onClick={() => decline.mutate(path)}>
          They decline
        </Button>
      </Acts>
    </section>
  );
}
