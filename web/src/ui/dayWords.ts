import { CalendarDate, type CalendarDate as Day } from '@internationalized/date';
import { MONTHS, readDay } from './dates';

const NEAR: Record<string, number> = { yesterday: -1, today: 0, tomorrow: 1 };

/** The day somebody writes down: "28 Nov 2026", "28 nov", "28.11.2026", "2026-11-28", "tomorrow". The day comes before the month. */
export function dayOfWords(text: string, today: Day): Day | undefined {
  const words = text.trim().toLowerCase();
  const near = NEAR[words];
  if (near !== undefined) return today.add({ days: near });
  const iso = readDay(words);
  if (iso !== undefined) return iso;
  const parts = /^(\d{1,2})(?:st|nd|rd|th)?[\s./-]+([a-z]{3,9}|\d{1,2})\.?(?:[\s./,-]+(\d{4}))?$/.exec(words);
  if (parts === null) return undefined;
  const [, day = '', month = '', year] = parts;
  const at = /\d/.test(month)
    ? Number(month)
    : MONTHS.findIndex((name) => month.startsWith(name.toLowerCase())) + 1;
  if (at < 1 || at > 12) return undefined;
  const found = new CalendarDate(year === undefined ? today.year : Number(year), at, Number(day));
  // 31 Feb is nobody's day
  return found.month === at && found.day === Number(day) ? found : undefined;
}
