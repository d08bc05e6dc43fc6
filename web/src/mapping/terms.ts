import { counted } from '../ui/words';
import { periodInWords, periodParts, unitOf } from '../ui/periods';
import type { Schemas } from '../api/client';
import { readDay, shownDay } from '../ui/dates';

export type Terms = Schemas['CellTerms'];

/** What Space gives a cell that opens nothing yet. */
export const FIRST_TERMS: Terms = { length: 'P1Y', refund: 'end' };

/** What opens something, as far as its terms are said otherwise for it. */
export interface Opener {
  sort: string;
  subscribed: boolean;
}

const PRODUCT: Opener = { sort: 'product', subscribed: false };

/** Whether it is bought, so that money can be given back. */
export function isBought(sort: string): boolean {
  return sort === 'product' || sort === 'option' || sort === 'category';
}

/** "always", "as long as it is held". */
export function heldInWords(opener: Opener): string {
  if (opener.sort === 'level' || opener.sort === 'tag') return 'as long as it is held';
  return opener.subscribed ? 'as long as it is paid for' : 'always';
}

/** As a cell says it: "1y", "held", "1y core +"; a dot where there is more to it. */
export function inACell(terms: Terms, opener = PRODUCT): string {
  const length =
    terms.length === 'held'
      ? heldInWords(opener) === 'always'
        ? 'always'
        : 'held'
      : periodParts(terms.length)
          .map((part) => `${part.count}${unitOf(part).short}`)
          .join(' ');
  const more = terms.starts ?? terms.until ?? terms.applies ?? terms.except;
  return [
    length,
    terms.tier !== undefined && ` ${terms.tier}`,
    terms.repeat === 'extend' && ' +',
    more !== undefined && ' ·',
    terms.refund === 'keep' && isBought(opener.sort) && ', kept',
  ]
    .filter(Boolean)
    .join('');
}

/** "for 1 year; a refund ends it": as the core says it (docs/formats/terms-in-words.json). */
export function inWords(terms: Terms, opener = PRODUCT): string {
  const parts = [
    [
      terms.length === 'held' ? heldInWords(opener) : `for ${periodInWords(terms.length)}`,
      beginning(terms),
      terms.until !== undefined && `, at most until ${day(terms.until)}`,
      terms.tier !== undefined && `, up to ${terms.tier}`,
      terms.except !== undefined && `, without ${counted(terms.except.length, 'course', 'courses')}`,
    ]
      .filter(Boolean)
      .join(''),
    terms.repeat === 'extend' && 'again adds to it',
    isBought(opener.sort) && refund(terms),
    ...serving(terms),
  ];
  return parts.filter(Boolean).join('; ');
}

/** The day of a local time, or of a moment in UTC. */
function day(time: string): string {
  const found = readDay(time.slice(0, 10));
  return found === undefined ? time : shownDay(found);
}

function beginning({ starts }: Terms): string {
  if (starts?.after !== undefined) return `, from ${periodInWords(starts.after)} later on`;
  return starts?.at === undefined ? '' : `, not before ${day(starts.at)}`;
}

function refund(terms: Terms): string {
  if (terms.refund === 'keep') return 'a refund leaves it open';
  return terms.refundShare === undefined
    ? 'a refund ends it'
    : `giving back ${Number((terms.refundShare * 100).toFixed(6))} % ends it`;
}

function serving({ applies }: Terms): string[] {
  const { from, until, afterwards } = applies ?? {};
  return [
    ...(from === undefined ? [] : [`for what begins from ${day(from)} on`]),
    ...(until === undefined
      ? []
      : [
          `for what begins before ${day(until)}, ${afterwards === 'take-back' ? 'taken back then' : 'which runs out'}`,
        ]),
  ];
}

/** The same terms for what begins from now on. */
export function fromNowOn(terms: Terms): Terms {
  return { ...terms, applies: { from: new Date().toISOString(), afterwards: 'run-out' } };
}

/** The same terms for what they serve until now, and for that until it has run out; nobody is served who was not. */
export function forThoseWhoHaveIt(terms: Terms): Terms {
  const { from, until = new Date().toISOString() } = terms.applies ?? {};
  return { ...terms, applies: { ...(from !== undefined && { from }), until, afterwards: 'run-out' } };
}

export function sameTerms(one: Terms | null, other: Terms | null): boolean {
  if (one?.named !== undefined && one.named === other?.named) return same(onCell(one), onCell(other));
  return same(one, other);
}

/** What of terms that have a name is said on the cell itself. */
export function onCell({ tier, except, applies }: Terms): Partial<Terms> {
  return {
    ...(tier !== undefined && { tier }),
    ...(except !== undefined && { except }),
    ...(applies !== undefined && { applies }),
  };
}

/** Terms of a rulebook's document, with what is left out there. */
export function termsIn(document: Partial<Terms>): Terms {
  return { length: 'held', refund: 'end', ...document };
}

/** Terms as a rulebook's document has them under a name: without what is a cell's own. */
export function asShared(terms: Terms): Partial<Terms> {
  return Object.fromEntries(
    Object.entries(terms).filter(([part]) => !['tier', 'except', 'applies', 'named'].includes(part)),
  );
}

export function same(one: unknown, other: unknown): boolean {
  return inOrder(one ?? null) === inOrder(other ?? null);
}

/** The same text for the same, in whatever order its parts were written. */
function inOrder(value: unknown): string {
  return JSON.stringify(value, (_, part: unknown) =>
    typeof part === 'object' && part !== null && !Array.isArray(part)
      ? Object.fromEntries(Object.entries(part).toSorted(([one], [other]) => (one < other ? -1 : 1)))
      : part,
  );
}
