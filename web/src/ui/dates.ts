import { parseDate, toCalendarDate, toZoned, fromDate, type CalendarDate } from '@internationalized/date';

export const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
const WEEKDAYS = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat'];

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
  return `${WEEKDAYS[day.toDate('UTC').getUTCDay()] ?? ''} ${shownDay(day)}`;
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

/** "4 min ago", "in 12 s", "just now". */
export function fromNow(instant: string, now: number): string {
  const seconds = Math.round((new Date(instant).getTime() - now) / 1000);
  const size = Math.abs(seconds);
  if (size === 0) return 'just now';
  const length =
    size < 60
      ? `${size} s`
      : size < 3600
        ? `${Math.round(size / 60)} min`
        : size < 172_800
          ? `${Math.round(size / 3600)} h`
          : `${Math.round(size / 86_400)} days`;
  return seconds < 0 ? `${length} ago` : `in ${length}`;
}
