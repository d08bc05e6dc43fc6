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

export function unitOf(part: Part) {
  const found = UNITS.find((known) => known.unit === part.unit);
  if (found === undefined) throw new Error(`no unit ${part.unit}`);
  return found;
}

/** "1 year 6 months"; weeks are days, as everywhere else they are said. */
export function periodInWords(period: string): string {
  return periodParts(period)
    .map(({ count, unit }): Part => (unit === 'W' ? { count: count * 7, unit: 'D' } : { count, unit }))
    .map((part) => `${part.count} ${part.count === 1 ? unitOf(part).one : unitOf(part).many}`)
    .join(' ');
}
