import { CalendarDate } from '@internationalized/date';
import { describe, expect, it } from 'vitest';
import { shownDay } from './dates';
import { dayOfWords } from './dayWords';

const TODAY = new CalendarDate(2026, 11, 30);

describe('a day in words', () => {
  it.each([
    ['28 Nov 2026', '2026-11-28'],
    [' 28 november 2026 ', '2026-11-28'],
    ['1st Dec 2026', '2026-12-01'],
    ['28 nov', '2026-11-28'],
    ['28.11.', '2026-11-28'],
    ['28.11.2027', '2027-11-28'],
    ['4/5/2026', '2026-05-04'], // the day comes before the month
    ['2026-02-28', '2026-02-28'],
    ['29 Feb 2028', '2028-02-29'],
    ['today', '2026-11-30'],
    ['Tomorrow', '2026-12-01'],
    ['yesterday', '2026-11-29'],
  ])('%j is %s', (words, day) => {
    expect(dayOfWords(words, TODAY)?.toString()).toBe(day);
  });

  it.each([
    '',
    '31 Feb 2026',
    '29 Feb 2026',
    '0 Nov 2026',
    '12/31/2026',
    'Nov',
    '28',
    'someday',
    '2026-13-01',
  ])('%j is none', (words) => {
    expect(dayOfWords(words, TODAY)).toBeUndefined();
  });

  it('reads whatever it shows', () => {
    for (let day = TODAY; day.compare(TODAY) < 800; day = day.add({ days: 1 })) {
      expect(dayOfWords(shownDay(day), TODAY)?.toString()).toBe(day.toString());
    }
  });
});
