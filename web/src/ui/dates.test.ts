import { CalendarDate } from '@internationalized/date';
import { describe, expect, it } from 'vitest';
import { keyMove } from '../band/keys';
import { dayOf, endOfDay, fromNow, readDay, shownDate, shownTime, shownWeekday, startOfDay } from './dates';

const DUBLIN = 'Europe/Dublin';

describe("days in the school's zone", () => {
  it('begin and end at its midnight, also when the clocks change', () => {
    // IANA tzdb: Irish summer time begins 29 Mar 2026 at 01:00 UTC and ends 25 Oct 2026 at 01:00 UTC
    const lengths = ['2026-03-28', '2026-03-29', '2026-10-25'].map((text) => {
      const day = readDay(text) ?? new CalendarDate(1, 1, 1);
      return (endOfDay(day, DUBLIN).getTime() + 1 - startOfDay(day, DUBLIN).getTime()) / 3_600_000;
    });
    expect(lengths).toEqual([24, 23, 25]);
    expect(dayOf('2026-07-01T23:30:00Z', DUBLIN).toString()).toBe('2026-07-02');
    expect(dayOf('2026-12-01T23:30:00Z', DUBLIN).toString()).toBe('2026-12-01');
    expect(endOfDay(new CalendarDate(2026, 7, 1), DUBLIN).toISOString()).toBe('2026-07-01T22:59:59.999Z');
  });

  it('are written in words', () => {
    expect(shownWeekday(new CalendarDate(2026, 11, 24))).toBe('Tue 24 Nov 2026');
    expect(shownDate('2026-07-01T23:30:00Z', DUBLIN)).toBe('2 Jul 2026');
    expect(shownTime('2026-10-12T10:58:04.5Z', DUBLIN)).toBe('12 Oct 2026, 11:58:04');
  });

  it('are read from the address, and nothing else is', () => {
    expect(readDay('2026-02-28')?.toString()).toBe('2026-02-28');
    for (const text of [undefined, '', 'today', '2026-2-8', '2026-02-30', '2026-13-01', '20260228']) {
      expect(readDay(text)?.toString(), text).toBeUndefined();
    }
  });

  it('are told as a distance', () => {
    const now = Date.parse('2026-11-24T12:00:00Z');
    expect(fromNow('2026-11-24T11:59:48Z', now)).toBe('12 sec. ago');
    expect(fromNow('2026-11-24T11:56:00Z', now)).toBe('4 min. ago');
    expect(fromNow('2026-11-24T15:00:00Z', now)).toBe('in 3 hr.');
    expect(fromNow('2026-11-20T12:00:00Z', now)).toBe('4 days ago');
  });
});

describe("the lamp's keys", () => {
  const today = new CalendarDate(2026, 11, 24);
  const from = new CalendarDate(2026, 3, 31);
  it.each([
    ['[', '2026-03-30'],
    [']', '2026-04-01'],
    ['{', '2026-02-28'],
    ['}', '2026-04-30'],
    ['.', '2026-11-24'],
  ])('%s moves to %s, the end of a month clamped', (key, to) => {
    expect(keyMove(key, from, today, false)?.toString()).toBe(to);
  });
  it('are the arrows only on the ruler itself', () => {
    expect(keyMove('ArrowLeft', from, today, false)).toBeUndefined();
    expect(keyMove('ArrowLeft', from, today, true)?.toString()).toBe('2026-03-30');
    expect(keyMove('a', from, today, true)).toBeUndefined();
  });
});
