import type { CalendarDate } from '@internationalized/date';
import { useNavigate, useSearch } from '@tanstack/react-router';
import { useMemo } from 'react';
import { useSession } from '../session/session';
import { dayOf, endOfDay, readDay } from '../ui/dates';
import { useNow } from './useNow';

export interface AsOf {
  /** The day the lamp stands at. */
  day: CalendarDate;
  today: CalendarDate;
  /** None = now; else what is asked of the server: the last moment of the day. */
  instant: string | undefined;
  /** Where it stands to now. */
  tense: 'past' | 'now' | 'future';
  move: (day: CalendarDate) => void;
}

/** The as-of date, as the address names it. */
export function useAsOf(): AsOf {
  const { at } = useSearch({ strict: false });
  const navigate = useNavigate();
  const { zone } = useSession();
  const todayText = dayOf(new Date(useNow(30_000)), zone).toString();
  return useMemo(() => {
    const today = readDay(todayText) ?? dayOf(new Date(), zone);
    const day = readDay(at) ?? today;
    const order = day.compare(today);
    return {
      day,
      today,
      instant: order === 0 ? undefined : endOfDay(day, zone).toISOString(),
      tense: order === 0 ? 'now' : order < 0 ? 'past' : 'future',
      move: (next: CalendarDate) => {
        void navigate({
          to: '.',
          replace: true,
          // an explicit undefined takes the date out of the address
          search: (previous) => ({
            ...previous,
            at: next.compare(today) === 0 ? undefined : next.toString(),
          }),
        });
      },
    };
  }, [at, navigate, todayText, zone]);
}
