import type { Schemas } from '../api/client';

export type Terms = Schemas['CellTerms'];

/** What Space gives a cell that opens nothing yet. */
export const FIRST_TERMS: Terms = { length: 'P1Y', refund: 'end' };

export type Unit = 'Y' | 'M' | 'W' | 'D';

export const UNITS: { unit: Unit; short: string; one: string; many: string }[] = [
  { unit: 'Y', short: 'y', one: 'year', many: 'years' },
  { unit: 'M', short: 'm', one: 'month', many: 'months' },
  { unit: 'W', short: 'w', one: 'week', many: 'weeks' },
  { unit: 'D', short: 'd', one: 'day', many: 'days' },
];

interface Part {
  count: number;
  unit: Unit;
}

/** The parts of an ISO 8601 period of years, months, weeks and days. */
export function periodParts(period: string): Part[] {
  return [...period.matchAll(/(\d+)([YMWD])/g)].map((match) => ({
    count: Number(match[1]),
    unit: match[2] as Unit,
  }));
}

function unitOf(part: Part) {
  const found = UNITS.find((known) => known.unit === part.unit);
  if (found === undefined) throw new Error(`no unit ${part.unit}`);
  return found;
}

/** As a cell says it: "1y", "always"; with a dot where a refund leaves it open. */
export function inACell(terms: Terms, sort = 'product'): string {
  const length =
    terms.length === 'held'
      ? sort === 'product'
        ? 'always'
        : 'held'
      : periodParts(terms.length)
          .map((part) => `${part.count}${unitOf(part).short}`)
          .join(' ');
  return terms.refund === 'keep' ? `${length}, kept` : length;
}

/** "for 1 year; a refund closes it". */
export function inWords(terms: Terms, sort = 'product'): string {
  const length =
    terms.length === 'held'
      ? sort === 'product'
        ? 'always'
        : 'as long as the tag is there'
      : `for ${periodParts(terms.length)
          .map((part) => `${part.count} ${part.count === 1 ? unitOf(part).one : unitOf(part).many}`)
          .join(' ')}`;
  if (sort !== 'product') return length;
  if (terms.refund === 'keep') return `${length}; a refund leaves it open`;
  return terms.refundShare === undefined
    ? `${length}; a refund closes it`
    : `${length}; giving back ${Math.round(terms.refundShare * 100)} % of what was paid closes it`;
}

export function sameTerms(one: Terms | null, other: Terms | null): boolean {
  if (one === null || other === null) return one === other;
  return one.length === other.length && one.refund === other.refund && one.refundShare === other.refundShare;
}
