import { parseDate, toCalendarDate, toZoned, fromDate, type CalendarDate } from '@internationalized/date';

/** American English shortens every month to three letters; British writes "Sept". */
const MONTH = new Intl.DateTimeFormat('en-US', { month: 'short', timeZone: 'UTC' });
const WEEKDAY = new Intl.DateTimeFormat('en-US', { weekday: 'short', timeZone: 'UTC' });

export const MONTHS = Array.from({ length: 12 }, (_, month) => MONTH.format(Date.UTC(2026, month, 1)));

/** Today, or a day of the past or future, in the school's zone. */
export function dayOf(instant: Date | string, zone: string): CalendarDate {
  return toCalendarDate(fromDate(new Date(instant), zone));
}

/** The last moment of a day in the school's zone. */
export function endOfDay(day: CalendarDate, zone: string): Date {
  return new Date(
    toZoned(day.add({ days: 1 }), zone)
      .toDate()
      .getTime() - 1,
  );
}

export function startOfDay(day: CalendarDate, zone: string): Date {
  return toZoned(day, zone).toDate();
}

/** The day that an address names, if it names one. */
export function readDay(text: string | undefined): CalendarDate | undefined {
  if (text === undefined || !/^\d{4}-\d{2}-\d{2}$/.test(text)) return undefined;
  try {
    return parseDate(text);
  } catch {
    return undefined;
  }
}

/** "12 Oct 2026". */
export function shownDay(day: CalendarDate): string {
  return `${day.day} ${MONTHS[day.month - 1] ?? ''} ${day.year}`;
}

/** "Mon 12 Oct 2026". */
export function shownWeekday(day: CalendarDate): string {
  return `${WEEKDAY.format(day.toDate('UTC'))} ${shownDay(day)}`;
}

export function shownMonth(day: CalendarDate): string {
  return MONTHS[day.month - 1] ?? '';
}

/** "12 Oct 2026", of an instant in the school's zone. */
export function shownDate(instant: string, zone: string): string {
  return shownDay(dayOf(instant, zone));
}

/** "11:58:04", of an instant in the school's zone. */
export function shownClock(instant: string, zone: string): string {
  const { hour, minute, second } = fromDate(new Date(instant), zone);
  return [hour, minute, second].map((part) => String(part).padStart(2, '0')).join(':');
}

/** "12 Oct 2026, 11:58:04", of an instant in the school's zone. */
export function shownTime(instant: string, zone: string): string {
  return `${shownDate(instant, zone)}, ${shownClock(instant, zone)}`;
}

const DISTANCE = new Intl.RelativeTimeFormat('en-US', { style: 'short', numeric: 'always' });

/** From which distance on it is counted in what, and how many seconds one of it has. */
const UNITS: [from: number, unit: Intl.RelativeTimeFormatUnit, seconds: number][] = [
  [172_800, 'day', 86_400],
  [3_600, 'hour', 3_600],
  [60, 'minute', 60],
  [1, 'second', 1],
];

/** "4 min. ago", "in 12 sec.", "just now". */
export function fromNow(instant: string, now: number): string {
  const seconds = Math.round((new Date(instant).getTime() - now) / 1000);
  const found = UNITS.find(([from]) => Math.abs(seconds) >= from);
  if (found === undefined) return 'just now';
  const [, unit, length] = found;
  return DISTANCE.format(Math.round(seconds / length), unit);
}
