import { parseDate } from '@internationalized/date';

const WORDS = new Intl.DateTimeFormat('en-IE', { month: 'short', year: 'numeric', timeZone: 'UTC' });

/** "Nov 2026", of "2026-11". */
export function monthInWords(month: string): string {
  return WORDS.format(parseDate(`${month}-01`).toDate('UTC'));
}

/** So many months up to that of a day, the first first, as "2026-11". */
export function lastMonths(day: string, many: number): string[] {
  const first = parseDate(`${day.slice(0, 7)}-01`);
  return Array.from({ length: many }, (_, at) =>
    first
      .subtract({ months: many - 1 - at })
      .toString()
      .slice(0, 7),
  );
}
