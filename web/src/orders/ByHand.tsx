import { Link, useNavigate, useSearch } from '@tanstack/react-router';
import { useState } from 'react';
import { z } from 'zod';
import { api, type Schemas } from '../api/client';
import { useAsOf } from '../band/asOf';
import { Finder } from '../ui/Finder';
import { matches, useOffer } from '../desk/offer';
import { PersonChoice } from '../desk/PersonChoice';
import { somebodyNew, type Somebody } from '../desk/somebody';
import { useAct, type Sheet } from '../desk/useAct';
import { WhatFollows } from '../desk/WhatFollows';
import { DayField } from '../ui/DayField';
import { ItemTable, SumLine } from '../ui/Items';
import { exactMoney } from '../ui/words';
import { amountFault, faults, itemSheet, newItem, optionOf, total, type Item } from './items';
import {
  ActForm,
  Button,
  buttonLook,
  Check,
  Checkbox,
  ConfirmButton,
  Empty,
  Fault,
  Field,
  Headline,
  Input,
  Margin,
  Panel,
  Screen,
  Select,
  TextButton,
  Two,
  useActFields,
} from '../ui/kit';

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

const BY_TRANSFER: Payment = { kind: 'ALREADY', method: 'bank transfer' };

/** As it is typed. Of the person: undefined = whom the link names, null = none. */
const SALE = z
  .object({
    person: z.custom<Somebody | null>().optional(),
    name: z.string().trim().max(200),
    isGift: z.boolean(),
    gift: z.string(),
    giftOn: z.string(),
    items: z.custom<Item[]>().optional(),
    payment: z.custom<Payment>(),
  })
  .refine(({ isGift, gift }) => !isGift || gift.trim() !== '', {
    path: ['gift'],
    message: 'Whom is it for?',
  });

/** Nobody's address (RFC 2606): what would come of an order is asked before its person is chosen. */
const SOMEBODY_NEW = 'somebody.new@yoru.invalid';

/** An order by hand: for whom, what, how it is paid; in the margin what will come of it. */
export function ByHand() {
  const { person: asked, product: wanted } = useSearch({ from: '/orders/by-hand' });
  const asOf = useAsOf();
  const navigate = useNavigate();
  const offer = useOffer();
  const form = useActFields<z.infer<typeof SALE>>(SALE, {
    name: '',
    isGift: false,
    gift: '',
    giftOn: '',
    payment: BY_TRANSFER,
  });
  const { isGift, giftOn, payment } = form.values;
  const given = useGiven(asked);
  const currency = offer?.currency ?? 'EUR';
  const items =
    form.values.items ??
    (offer?.products ?? [])
      .filter((product) => product.id === wanted)
      .map((product) => newItem(product, [], currency));
  const person = form.values.person === undefined ? given : (form.values.person ?? undefined);
  const mistyped = faults(items);
  const sheet: Sheet | undefined =
    form.filled === undefined || items.length === 0 || mistyped.length > 0
      ? undefined
      : {
          kind: 'SELL',
          person: person?.key ?? SOMEBODY_NEW,
          ...(form.filled.name !== '' && { name: form.filled.name }),
          items: items.map((item) => itemSheet(item, isGift ? form.values.gift : '', giftOn)),
          payment,
        };
  const act = useAct(sheet, (done) => {
    if (done.order !== undefined) void navigate({ to: '/orders/$id', params: { id: done.order } });
  });
  const refusals = act.consequence?.refusals ?? [];
  const ready =
    person !== undefined && sheet !== undefined && act.current && refusals.length === 0 && !act.busy;
  const submit = () => {
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
  return (
    <Screen
      margin={
        <Margin label="What will happen">
          <section>
            <h2>What will happen</h2>
            <p className="text-soft">
              {payment.kind === 'ON_FILE' ? 'once the shop has charged it' : 'as soon as you confirm'}
              {person === undefined && sheet !== undefined && ', were it for somebody new'}
            </p>
            {mistyped.map((fault) => (
              <p key={fault} className="text-warning py-1" role="status">
                {fault}.
              </p>
            ))}
            {sheet === undefined && mistyped.length === 0 && <p>Choose a product, and it is said here.</p>}
            {refusals.map((refusal) => (
              <p key={refusal.field + refusal.problem} className="text-warning" role="status">
                {refusal.problem}
              </p>
            ))}
            {act.consequence?.doubts.map((doubt) => (
              <p key={doubt.field} className="text-warning py-1" role="status">
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
      <ActForm onConfirm={submit} aria-label="Order by hand">
        <Headline>
          <h1>Order by hand</h1>
          <p>nothing is sent before you confirm</p>
        </Headline>
        <Panel aria-label="For whom">
          <h2>For whom</h2>
          <PersonChoice
            label="For whom"
            person={person}
            onChoose={(next) => {
              form.set('person', next ?? null);
              // what somebody else left on file is not theirs
              if (payment.kind === 'ON_FILE') form.set('payment', BY_TRANSFER);
            }}
          />
          {person?.known === false && (
            <Field label="What they are called" maxLength={200} {...form.field('name')} />
          )}
          <Check as="div">
            <Checkbox id="is-gift" {...form.tick('isGift')} />
            <label htmlFor="is-gift">it is a gift for somebody else</label>
          </Check>
          {isGift && (
            <Two>
              <Field
                label="Address of whom it is for"
                type="email"
                {...form.field('gift')}
                hint="It opens when the gift is taken up, with whatever address they use then."
              />
              <DayField
                label="They are written to on"
                {...form.picked('giftOn')}
                hint={giftOn === '' ? 'at once, when nothing is chosen' : 'at 9 in the morning'}
              />
            </Two>
          )}
        </Panel>
        <What
          items={items}
          onChange={form.picked('items').onChange}
          products={offer?.products ?? []}
          currency={currency}
        />
        <HowPaid {...form.picked('payment')} person={person?.key} />
        <div className="flex flex-wrap items-center gap-2.5">
          <ConfirmButton disabled={!ready}>
            {act.busy
              ? 'Confirming …'
              : payment.kind === 'ON_FILE'
                ? 'Confirm and charge'
                : payment.kind === 'LATER_OPEN_WHEN_PAID'
                  ? 'Confirm the order'
                  : 'Confirm and open'}
          </ConfirmButton>
          {isLater(payment.kind) && <AsQuote sheet={ready ? sheet : undefined} />}
          <Link to="/orders" className={buttonLook()}>
            Leave it
          </Link>
          <Total items={items} free={payment.kind === 'FREE'} currency={currency} />
        </div>
      </ActForm>
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
      <Button
        type="button"
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
      </Button>
      <DayField inline label="It holds until" value={until} onChange={setUntil} />
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
  if (key === undefined || people.data === undefined) {
    return undefined;
  }
  const found = people.data.people.find((one) => one.key === key);
  return found === undefined ? somebodyNew(key) : { key: found.key, name: found.name, known: true };
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
    <Panel aria-label="What">
      <h2>What</h2>
      {items.length > 0 && (
        <ItemTable>
          <thead>
            <tr>
              <th scope="col">Product</th>
              <th scope="col">How many</th>
              <th scope="col">Price of one</th>
              <th scope="col">Taken off</th>
              <th scope="col" data-number>
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
                    <Select
                      aria-label={`Option of ${item.product.title}`}
                      value={item.option}
                      onChange={(event) => change(at, optionOf(item, event.target.value, currency))}
                    >
                      <option value="">no option</option>
                      {item.product.options.map((option) => (
                        <option key={option.id} value={option.id}>
                          {option.title}
                        </option>
                      ))}
                    </Select>
                  )}
                </td>
                <td>
                  <Input
                    type="number"
                    min={1}
                    max={1000}
                    aria-label={`How many of ${item.product.title}`}
                    value={item.quantity}
                    onChange={(event) => change(at, { quantity: event.target.value })}
                  />
                </td>
                <td>
                  <Input
                    inputMode="decimal"
                    aria-label={`Price of one ${item.product.title}`}
                    aria-invalid={amountFault(item.price) !== undefined}
                    value={item.price}
                    onChange={(event) => change(at, { price: event.target.value })}
                  />
                </td>
                <td>
                  <Input
                    inputMode="decimal"
                    placeholder="0"
                    aria-label={`Taken off ${item.product.title}`}
                    aria-invalid={amountFault(item.off) !== undefined}
                    value={item.off}
                    onChange={(event) => change(at, { off: event.target.value })}
                  />
                </td>
                <td data-number>{exactMoney(total([item], currency), currency)}</td>
                <td>
                  <TextButton
                    type="button"
                    aria-label={`Take ${item.product.title} out`}
                    onClick={() => onChange(items.filter((_, n) => n !== at))}
                  >
                    take out
                  </TextButton>
                </td>
              </tr>
            ))}
          </tbody>
        </ItemTable>
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
            <span className="text-soft">
              {product.price === undefined ? 'no price' : exactMoney(product.price, currency)}
              {product.thing ? ' · to post' : product.opens === 0 ? ' · opens nothing' : ''}
            </span>
          </>
        )}
        onChoose={(product) => onChange([...items, newItem(product, items, currency)])}
        nothing="No product is called that."
      />
    </Panel>
  );
}

function HowPaid({
  value: payment,
  onChange,
  person,
}: {
  value: Payment;
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
    <Panel aria-label="How it is paid">
      <h2>How it is paid</h2>
      <div
        className="grid grid-cols-[repeat(auto-fit,minmax(9.6rem,1fr))] gap-2"
        role="radiogroup"
        aria-label="How it is paid"
      >
        {ways.map(({ way, chosen, title, says }) => (
          <label
            key={title + says}
            className={`relative grid cursor-pointer content-start gap-0.5 rounded-box border px-3 py-2.5 focus-within:outline-2 focus-within:outline-offset-1 focus-within:outline-secondary [&>input]:absolute [&>input]:opacity-0 [&>span]:text-[0.86rem] [&>span]:text-soft ${chosen ? 'border-base-content bg-chosen inset-ring inset-ring-base-content' : 'border-line'}`}
          >
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
          onValue={(reason) => onChange({ ...payment, reason })}
          placeholder="Volunteer at the spring open day"
          maxLength={500}
        />
      )}
      {payment.kind === 'ALREADY' && (
        <Two>
          <Field
            label="How"
            value={payment.method ?? ''}
            onValue={(method) => onChange({ ...payment, method })}
            maxLength={100}
          />
          <Field
            label="Reference"
            value={payment.reference ?? ''}
            onValue={(reference) => onChange({ ...payment, reference })}
            placeholder="Receipt or statement number"
            maxLength={200}
          />
        </Two>
      )}
      {isLater(payment.kind) && (
        <DayField
          label="To be paid by"
          value={payment.payBy ?? ''}
          onChange={(payBy) => onChange({ kind: payment.kind, ...(payBy !== '' && { payBy }) })}
        />
      )}
    </Panel>
  );
}

function Total({ items, free, currency }: { items: Item[]; free: boolean; currency: string }) {
  const sum = total(items, currency);
  return (
    <SumLine strong words="Total" amount={free ? 0 : sum} currency={currency}>
      {free && sum > 0 && <s>{exactMoney(sum, currency)}</s>}
    </SumLine>
  );
}
