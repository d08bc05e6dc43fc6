import type { ReactNode } from 'react';
import { box } from './box';
import { exactMoney } from './words';

/** Things with their amounts, line by line, as on a quote or an invoice. */
export const ItemTable = box(
  'table',
  'w-full [&_td]:border-t [&_td]:border-line [&_td]:py-1 [&_td]:pr-2 [&_th]:pb-1 [&_th]:text-left [&_th]:font-semibold [&_th]:text-soft [&_[data-number]]:text-right [&_[data-number]]:whitespace-nowrap',
);

interface ItemLine {
  title: string;
  giftTo?: string | undefined;
  quantity: number;
  /** Of one; none = only what the line comes to is said. */
  price?: number;
  off?: number | undefined;
  amount: number;
}

/** What is offered or charged, line by line. */
export function ItemLines({ lines, currency }: { lines: ItemLine[]; currency: string }) {
  const priced = lines.some(({ price }) => price !== undefined);
  return (
    <ItemTable className="mt-3">
      <thead>
        <tr>
          <th scope="col">Product</th>
          <th scope="col" data-number>
            How many
          </th>
          {priced && (
            <>
              <th scope="col" data-number>
                Price of one
              </th>
              <th scope="col" data-number>
                Taken off
              </th>
            </>
          )}
          <th scope="col" data-number>
            {currency}
          </th>
        </tr>
      </thead>
      <tbody>
        {lines.map(({ title, giftTo, quantity, price = 0, off = 0, amount }, at) => (
          <tr key={at}>
            <td>
              <strong>{title}</strong>
              {giftTo !== undefined && <span className="text-soft"> for {giftTo}</span>}
            </td>
            <td data-number>{quantity}</td>
            {priced && (
              <>
                <td data-number>{exactMoney(price, currency)}</td>
                <td data-number>{off === 0 ? '' : exactMoney(off, currency)}</td>
              </>
            )}
            <td data-number>{exactMoney(amount, currency)}</td>
          </tr>
        ))}
      </tbody>
    </ItemTable>
  );
}

/** Whom a quote or an invoice is for. */
export function Addressee({ word, name, address }: { word: string; name: string; address: string }) {
  return (
    <p>
      {word} <strong>{name}</strong> {name !== address && <span className="text-soft">{address}</span>}
    </p>
  );
}

/** The same lines in a letter. */
export function itemsInWords(lines: ItemLine[], total: number, currency: string): string[] {
  return [
    ...lines.map(({ title, quantity, amount }) => `${quantity} × ${title}: ${exactMoney(amount, currency)}`),
    `Total: ${exactMoney(total, currency)}`,
  ];
}

/** A sum below such a table. */
export function SumLine({
  words,
  amount,
  currency,
  strong = false,
  children,
}: {
  words: string;
  amount: number;
  currency: string;
  strong?: boolean;
  children?: ReactNode;
}) {
  return (
    <p
      {...(strong && { 'data-part': 'total' })}
      className={`ml-auto flex items-baseline justify-end gap-2.5 [&_s]:text-soft ${strong ? 'mt-2.5 text-xl' : ''}`}
    >
      <span className="text-soft">{words}</span>
      {children}
      <strong className={strong ? '' : 'font-medium'}>{exactMoney(amount, currency)}</strong>
    </p>
  );
}

/** A letter in one's own mail program. */
export function mailTo(person: string, subject: string, lines: string[]): string {
  const query = `subject=${encodeURIComponent(subject)}&body=${encodeURIComponent(lines.join('\r\n'))}`;
  return `mailto:${encodeURIComponent(person)}?${query}`;
}
