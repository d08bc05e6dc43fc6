import type { Schemas } from '../api/client';

type Listed = Schemas['ListedQuote'];

/** How a quote stands, in a word. */
export function standing(quote: Listed): string {
  if (quote.state === 'AGREED') return 'agreed';
  if (quote.state === 'DECLINED') return 'declined';
  return quote.expired ? 'no longer valid' : 'waits for an answer';
}
