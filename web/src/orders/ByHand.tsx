import { Link, useNavigate, useSearch } from '@tanstack/react-router';
import { useState, type SyntheticEvent } from 'react';
import { api, type Schemas } from '../api/client';
import { useAsOf } from '../band/asOf';
import { Finder } from '../desk/Finder';
import { matches, useOffer } from '../desk/offer';
import { PersonChoice } from '../desk/PersonChoice';
import type { Somebody } from '../desk/PersonFinder';
import { useAct, type Sheet } from '../desk/useAct';
import { WhatFollows } from '../desk/WhatFollows';
import { DayField } from '../ui/DayField';
import { Field } from '../ui/Field';
import { Empty, Fault, Margin, Screen } from '../ui/parts';
import { exactMoney } from '../ui/words';
import { amountFault, faults, itemSheet, total, type Item } from './items';

type Offered = Schemas['OfferedProduct'];
type Payment = Schemas['PaymentSheet'];

const WAYS: { kind: Payment['kind']; title: string; says: string }[] = [
  { kind: 'FREE', title: 'Free of charge', says: 'the total becomes zero, and it is listed as a free place' },
  { kind: 'ALREADY', title: 'Paid already', says: 'cash, transfer, cheque' },
  { kind: 'LATER_OPEN_NOW', title: 'Pay later', says: 'opens now, counted as not paid' },
  {
    kind: 'LATER_OPEN_WHEN_PAID',
    title: 'Open when paid',
    says: 'nothing opens before the payment is entered',
  },
];

/** An order by hand: for whom, what, how it is paid; in the margin what will come of it. */
export function ByHand() {
  const { person: asked } = useSearch({ from: '/orders/by-hand' });
  const asOf = useAsOf();
  const navigate = useNavigate();
  const offer = useOffer();
  const [chosen, setChosen] = useState<Somebody>();
  /** Whether the person of the link is not the one any more. */
  const [dropped, setDropped] = useState(false);
  const [name, setName] = useState('');
  const [gift, setGift] = useState('');
  const [giftOn, setGiftOn] = useState('');
  const [isGift, setIsGift] = useState(false);
  const [items, setItems] = useState<Item[]>([]);
  const [payment, setPayment] = useState<Payment>({ kind: 'ALREADY', method: 'bank transfer' });
  const given = useGiven(asked);
  const person = chosen ?? (dropped ? undefined : given);
  const mistyped = faults(items);
  const sheet: Sheet | undefined =
    person === undefined || items.length === 0 || mistyped.length > 0 || (isGift && gift.trim() === '')
      ? undefined
      : {
          kind: 'SELL',
          person: person.key,
          ...(name.trim() !== '' && { name }),
          items: items.map((item) => itemSheet(item, isGift ? gift : '', giftOn)),
          payment,
        };
  const act = useAct(sheet, (done) => {
    if (done.order !== undefined) void navigate({ to: '/orders/$id', params: { id: done.order } });
  });
  const refusals = act.consequence?.refusals ?? [];
  const ready = sheet !== undefined && act.current && refusals.length === 0 && !act.busy;
  const submit = (event: SyntheticEvent) => {
    event.preventDefault();
    if (ready) act.act();
  };
  if (asOf.tense !== 'now') {
    return (
      <Screen>
        <Empty title="An order is entered now.">
          <p>Bring the lamp back to now, with the full stop.</p>
        </Empty>
      </Screen>
    );
  }
  const currency = offer?.currency ?? 'EUR';
  return (
    <Screen
      margin={
        <Margin label="What will happen">
          <section>
            <h2>What will happen</h2>
            <p className="soft">
              {payment.kind === 'ON_FILE' ? 'once the shop has charged it' : 'as soon as you confirm'}
            </p>
            {mistyped.map((fault) => (
              <p key={fault} className="warn py-1" role="status">
                {fault}.
              </p>
            ))}
            {sheet === undefined && mistyped.length === 0 && (
              <p>Choose a person and a product, and it is said here.</p>
            )}
            {refusals.map((refusal) => (
              <p key={refusal.field + refusal.problem} className="warn" role="status">
                {refusal.problem}
              </p>
            ))}
            {act.consequence?.doubts.map((doubt) => (
              <p key={doubt.field} className="warn py-1" role="status">
                {doubt.question}
              </p>
            ))}
            {act.consequence !== undefined && refusals.length === 0 && (
              <WhatFollows consequence={act.consequence} />
            )}
            {act.fault !== null && <Fault error={act.fault} />}
          </section>
        </Margin>
      }
    >
      <form onSubmit={submit} aria-label="Order by hand">
        <div className="headline">
          <h1>Order by hand</h1>
          <p>nothing is sent before you confirm</p>
        </div>
        <section className="panel" aria-label="For whom">
          <h2>For whom</h2>
          <PersonChoice
            label="For whom"
            person={person}
            onChoose={(next) => {
              setChosen(next);
              setDropped(true);
              // what somebody else left on file is not theirs
              if (payment.kind === 'ON_FILE') setPayment({ kind: 'ALREADY', method: 'bank transfer' });
            }}
          />
          {person?.known === false && (
            <Field label="What they are called" value={name} onChange={setName} maxLength={200} />
          )}
          <div className="check">
            <input
              id="is-gift"
              type="checkbox"
              className="checkbox"
              checked={isGift}
              onChange={(event) => setIsGift(event.target.checked)}
            />
            <label htmlFor="is-gift">it is a gift for somebody else</label>
          </div>
          {isGift && (
            <div className="two">
              <Field
                label="Address of whom it is for"
                type="email"
                value={gift}
                onChange={setGift}
                hint="It opens when the gift is taken up, with whatever address they use then."
              />
              <div className="field">
                <label htmlFor="gift-on">They are written to on</label>
                <input
                  id="gift-on"
                  type="date"
                  className="input"
                  value={giftOn}
                  onChange={(event) => setGiftOn(event.target.value)}
                />
                <div className="soft">
                  {giftOn === '' ? 'at once, when nothing is chosen' : 'at 9 in the morning'}
                </div>
              </div>
            </div>
          )}
        </section>
        <What items={items} onChange={setItems} products={offer?.products ?? []} currency={currency} />
        <HowPaid payment={payment} onChange={setPayment} person={person?.key} />
        <div className="confirm">
          <button type="submit" className="btn btn-primary" disabled={!ready}>
            {act.busy
              ? 'Confirming …'
              : payment.kind === 'ON_FILE'
                ? 'Confirm and charge'
                : payment.kind === 'LATER_OPEN_WHEN_PAID'
                  ? 'Confirm the order'
                  : 'Confirm and open'}
          </button>
          {isLater(payment.kind) && <AsQuote sheet={ready ? sheet : undefined} />}
          <Link to="/orders" className="btn">
            Leave it
          </Link>
          <Total items={items} free={payment.kind === 'FREE'} currency={currency} />
        </div>
      </form>
    </Screen>
  );
}

function isLater(kind: Payment['kind']): boolean {
  return kind === 'LATER_OPEN_NOW' || kind === 'LATER_OPEN_WHEN_PAID';
}

const MONTH_MS = 30 * 24 * 3_600_000;

/** Keeps the order as an offer, which opens nothing until it is agreed to. */
function AsQuote({ sheet }: { sheet: Sheet | undefined }) {
  const navigate = useNavigate();
  const [key] = useState(() => crypto.randomUUID());
  const [until, setUntil] = useState(() => new Date(Date.now() + MONTH_MS).toISOString().slice(0, 10));
  const make = api.useMutation('post', '/api/quotes', {
    onSuccess: (made: Schemas['ShownQuote']) =>
      void navigate({ to: '/quotes/$id', params: { id: String(made.quote.id) } }),
  });
  return (
    <>
      <button
        type="button"
        className="btn"
        disabled={sheet === undefined || make.isPending}
        onClick={() => {
          if (sheet !== undefined)
            make.mutate({
              body: {
                key,
                act: { ...sheet, payment: { kind: sheet.payment?.kind ?? 'LATER_OPEN_NOW' } },
                ...(until !== '' && { validUntil: until }),
              },
            });
        }}
      >
        Keep as a quote
      </button>
      <DayField label="It holds until" value={until} onChange={setUntil} />
      {make.error !== null && <Fault error={make.error} />}
    </>
  );
}

/** The person of the link that led here. */
function useGiven(key: string | undefined): Somebody | undefined {
  const people = api.useQuery(
    'get',
    '/api/people',
    { params: { query: { q: key ?? '' } } },
    { enabled: key !== undefined },
  );
  const found = people.data?.people.find((one) => one.key === key);
  return found === undefined ? undefined : { key: found.key, name: found.name, known: true };
}

function What({
  items,
  onChange,
  products,
  currency,
}: {
  items: Item[];
  onChange: (items: Item[]) => void;
  products: Offered[];
  currency: string;
}) {
  const [words, setWords] = useState('');
  const found = products.filter((product) => matches(words, product.title, product.id)).slice(0, 8);
  const change = (at: number, next: Partial<Item>) =>
    onChange(items.map((item, n) => (n === at ? { ...item, ...next } : item)));
  return (
    <section className="panel" aria-label="What">
      <h2>What</h2>
      {items.length > 0 && (
        <table className="items">
          <thead>
            <tr>
              <th scope="col">Product</th>
              <th scope="col">How many</th>
              <th scope="col">Price of one</th>
              <th scope="col">Taken off</th>
              <th scope="col" className="number">
                {currency}
              </th>
              <th />
            </tr>
          </thead>
          <tbody>
            {items.map((item, at) => (
              <tr key={item.at}>
                <td>
                  <strong>{item.product.title}</strong> <code>{item.product.id}</code>
                  {item.product.options.length > 0 && (
                    <select
                      className="select"
                      aria-label={`Option of ${item.product.title}`}
                      value={item.option}
                      onChange={(event) => change(at, { option: event.target.value })}
                    >
                      <option value="">no option</option>
                      {item.product.options.map((option) => (
                        <option key={option.id} value={option.id}>
                          {option.title}
                        </option>
                      ))}
                    </select>
                  )}
                </td>
                <td>
                  <input
                    className="input"
                    type="number"
                    min={1}
                    max={1000}
                    aria-label={`How many of ${item.product.title}`}
                    value={item.quantity}
                    onChange={(event) => change(at, { quantity: event.target.value })}
                  />
                </td>
                <td>
                  <input
                    className="input"
                    inputMode="decimal"
                    aria-label={`Price of one ${item.product.title}`}
                    aria-invalid={amountFault(item.price) !== undefined}
                    value={item.price}
                    onChange={(event) => change(at, { price: event.target.value })}
                  />
                </td>
                <td>
                  <input
                    className="input"
                    inputMode="decimal"
                    placeholder="0"
                    aria-label={`Taken off ${item.product.title}`}
                    aria-invalid={amountFault(item.off) !== undefined}
                    value={item.off}
                    onChange={(event) => change(at, { off: event.target.value })}
                  />
                </td>
                <td className="number">{exactMoney(total([item]), currency)}</td>
                <td>
                  <button
                    type="button"
                    className="link"
                    aria-label={`Take ${item.product.title} out`}
                    onClick={() => onChange(items.filter((_, n) => n !== at))}
                  >
                    take out
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <Finder
        label="Add a product"
        placeholder="Add a product by name or code"
        words={words}
        onWords={setWords}
        found={found}
        idOf={(product) => product.id}
        show={(product) => (
          <>
            <strong>{product.title}</strong> <code>{product.id}</code>{' '}
            <span className="soft">
              {product.price === undefined ? 'no price' : exactMoney(product.price, currency)}
              {product.thing ? ' · to post' : product.opens === 0 ? ' · opens nothing' : ''}
            </span>
          </>
        )}
        onChoose={(product) =>
          onChange([
            ...items,
            {
              at: Math.max(0, ...items.map((item) => item.at)) + 1,
              product,
              option: '',
              quantity: '1',
              price: product.price === undefined ? '' : product.price.toFixed(2),
              off: '',
            },
          ])
        }
        nothing="No product is called that."
      />
    </section>
  );
}

function HowPaid({
  payment,
  onChange,
  person,
}: {
  payment: Payment;
  onChange: (payment: Payment) => void;
  person: string | undefined;
}) {
  const methods = api.useQuery(
    'get',
    '/api/charges/methods',
    { params: { query: { person: person ?? '' } } },
    { enabled: person !== undefined },
  );
  const onFile = person === undefined ? [] : (methods.data ?? []);
  const ways: { way: Payment; chosen: boolean; title: string; says: string }[] = [
    ...WAYS.map(({ kind, ...words }) => ({ way: { kind }, chosen: payment.kind === kind, ...words })),
    ...onFile.map(({ connection, system, method, label }) => ({
      way: { kind: 'ON_FILE' as const, onFile: { connection, method, label } },
      chosen: payment.onFile?.connection === connection && payment.onFile.method === method,
      title: `On file: ${label}`,
      says: `${system} charges it, and then it opens`,
    })),
  ];
  return (
    <section className="panel" aria-label="How it is paid">
      <h2>How it is paid</h2>
      <div className="pay-ways" role="radiogroup" aria-label="How it is paid">
        {ways.map(({ way, chosen, title, says }) => (
          <label key={title + says} className={chosen ? 'pay-way pay-way-chosen' : 'pay-way'}>
            <input type="radio" name="pay-way" checked={chosen} onChange={() => onChange(way)} />
            <strong>{title}</strong>
            <span>{says}</span>
          </label>
        ))}
      </div>
      {payment.kind === 'FREE' && (
        <Field
          label="Reason"
          value={payment.reason ?? ''}
          onChange={(reason) => onChange({ ...payment, reason })}
          placeholder="Volunteer at the spring open day"
          maxLength={500}
        />
      )}
      {payment.kind === 'ALREADY' && (
        <div className="two">
          <Field
            label="How"
            value={payment.method ?? ''}
            onChange={(method) => onChange({ ...payment, method })}
            maxLength={100}
          />
          <Field
            label="Reference"
            value={payment.reference ?? ''}
            onChange={(reference) => onChange({ ...payment, reference })}
            placeholder="Receipt or statement number"
            maxLength={200}
          />
        </div>
      )}
      {isLater(payment.kind) && (
        <DayField
          label="To be paid by"
          value={payment.payBy ?? ''}
          onChange={(payBy) => onChange({ kind: payment.kind, ...(payBy !== '' && { payBy }) })}
        />
      )}
    </section>
  );
}

function Total({ items, free, currency }: { items: Item[]; free: boolean; currency: string }) {
  const sum = total(items);
  return (
    <p className="total">
      <span className="soft">Total</span>
      {free && sum > 0 && <s>{exactMoney(sum, currency)}</s>}
      <strong>{exactMoney(free ? 0 : sum, currency)}</strong>
    </p>
  );
}
