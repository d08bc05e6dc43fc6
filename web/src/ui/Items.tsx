import type { ReactNode } from 'react';
import { box } from './box';
import { exactMoney } from './words';

/** Things with their amounts, line by line, as on a quote or an invoice. */
export const ItemTable = box(
  'table',
  'w-full [&_td]:border-t [&_td]:border-line [&_td]:py-1 [&_td]:pr-2 [&_th]:pb-1 [&_th]:text-left [&_th]:font-semibold [&_th]:text-soft [&_[data-number]]:text-right [&_[data-number]]:whitespace-nowrap',
);

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
