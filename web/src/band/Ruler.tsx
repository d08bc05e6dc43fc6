import type { CalendarDate } from '@internationalized/date';
import { scaleTime } from 'd3-scale';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { api, type Schemas } from '../api/client';
import { useSession } from '../session/session';
import { dayOf, readDay, shownMonth, shownWeekday, startOfDay } from '../ui/dates';
import { useAsOf } from './asOf';
import { isTyping, keyMove } from './keys';
import './Ruler.css';

const WIDTH = 1232;
const LINE = 25;
const TALLEST = 16;
const DAYS_PER_BAR = 3;

interface Stretch {
  from: CalendarDate;
  to: CalendarDate;
}

/** From six months before the middle day to four after: what is ahead matters less than what was. */
function around(middle: CalendarDate): Stretch {
  return { from: middle.subtract({ months: 6 }), to: middle.add({ months: 4 }) };
}

/** Past openings above the line, endings below, the lamp at the as-of date. */
export function Ruler() {
  const { zone } = useSession();
  const asOf = useAsOf();
  const [dragged, setDragged] = useState<CalendarDate>();
  const shown = dragged ?? asOf.day;
  const stretch = useStretch(asOf.day, asOf.today);
  const x = useMemo(
    () =>
      scaleTime()
        .domain([startOfDay(stretch.from, zone), startOfDay(stretch.to, zone)])
        .range([0, WIDTH]),
    [stretch, zone],
  );
  const bars = useBars(stretch);
  const track = useRef<HTMLDivElement>(null);
  useKeys(asOf.day, asOf.today, asOf.move);
  const { move } = asOf;
  useEffect(() => {
    if (dragged === undefined) return;
    const settled = setTimeout(() => move(dragged), 120);
    return () => clearTimeout(settled);
  }, [dragged, move]);

  const dayAt = (event: PointerEvent) => {
    const box = track.current?.getBoundingClientRect();
    if (box === undefined || box.width === 0) return asOf.day;
    const part = Math.min(1, Math.max(0, (event.clientX - box.left) / box.width));
    return dayOf(x.invert(part * WIDTH), zone);
  };
  const onPointerDown = (event: PointerEvent<HTMLDivElement>) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    setDragged(dayAt(event));
  };
  const onPointerMove = (event: PointerEvent<HTMLDivElement>) => {
    if (dragged !== undefined) setDragged(dayAt(event));
  };
  const onPointerUp = (event: PointerEvent<HTMLDivElement>) => {
    if (dragged === undefined) return;
    setDragged(undefined);
    asOf.move(dayAt(event));
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const next = keyMove(event.key, asOf.day, asOf.today, true);
    if (next === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    asOf.move(next);
  };

  const lamp = `${(x(startOfDay(shown, zone)) / WIDTH) * 100}%`;
  const busiest = Math.max(6, ...bars.map((bar) => Math.max(bar.opened, bar.ended)));
  const height = (count: number) => (count === 0 ? 0 : 2 + (TALLEST - 2) * Math.sqrt(count / busiest));
  return (
    <div
      ref={track}
      className={asOf.tense === 'now' ? 'ruler' : 'ruler ruler-elsewhere'}
      role="slider"
      tabIndex={0}
      aria-label="As-of date"
      aria-valuemin={0}
      aria-valuemax={stretch.to.compare(stretch.from)}
      aria-valuenow={shown.compare(stretch.from)}
      aria-valuetext={shownWeekday(shown)}
      title="Drag the lamp to see another day; [ and ] move it by a day, { and } by a month, . brings it back to now"
      onPointerDown={onPointerDown}
      onPointerMove={onPointerMove}
      onPointerUp={onPointerUp}
      onKeyDown={onKeyDown}
    >
      <svg viewBox={`0 0 ${WIDTH} 46`} preserveAspectRatio="none" aria-hidden="true">
        <line x1="0" x2={WIDTH} y1={LINE} y2={LINE} className="ruler-line" />
        {bars.map((bar) => {
          const left = x(startOfDay(bar.from, zone));
          const opened = height(bar.opened);
          return (
            <g
              key={bar.from.toString()}
              className={bar.from.compare(asOf.today) > 0 ? 'ruler-ahead' : undefined}
            >
              <rect x={left} y={LINE - opened} width="6" height={opened} className="ruler-opened" />
              <rect
                x={left}
                y={LINE + 1}
                width="6"
                height={height(bar.ended) * 0.7}
                className="ruler-ended"
              />
            </g>
          );
        })}
      </svg>
      {months(stretch).map((month) => (
        <span
          key={month.toString()}
          className="ruler-month"
          style={{ left: `${(x(startOfDay(month, zone)) / WIDTH) * 100}%` }}
        >
          {shownMonth(month)}
          {month.month === 1 ? ` ${month.year}` : ''}
        </span>
      ))}
      <span className="lamp" style={{ left: lamp }} aria-hidden="true" />
      <span
        className="lamp-day"
        style={{ left: `clamp(60px, ${lamp}, calc(100% - 60px))` }}
        aria-hidden="true"
      >
        {shownWeekday(shown)}
      </span>
    </div>
  );
}

/** Stays where it is while the lamp is inside, so that the ground does not move under a dragging hand. */
function useStretch(day: CalendarDate, today: CalendarDate): Stretch {
  const atToday = around(today);
  const inside = day.compare(atToday.from) >= 0 && day.compare(atToday.to) < 0;
  const middle = (inside ? today : day).toString();
  return useMemo(() => around(readDay(middle) ?? today), [middle, today]);
}

interface DayBar {
  from: CalendarDate;
  opened: number;
  ended: number;
}

function useBars(stretch: Stretch): DayBar[] {
  const { data } = api.useQuery(
    'get',
    '/api/ruler',
    { params: { query: { from: stretch.from.toString(), to: stretch.to.toString() } } },
    { refetchInterval: 15_000, placeholderData: (previous) => previous },
  );
  return useMemo(() => gathered(data ?? [], stretch), [data, stretch]);
}

function gathered(days: Schemas['Day'][], stretch: Stretch): DayBar[] {
  const bars: DayBar[] = [];
  for (let from = stretch.from; from.compare(stretch.to) < 0; from = from.add({ days: DAYS_PER_BAR })) {
    bars.push({ from, opened: 0, ended: 0 });
  }
  for (const day of days) {
    const date = readDay(day.day);
    const bar = date && bars[Math.floor(date.compare(stretch.from) / DAYS_PER_BAR)];
    if (bar !== undefined) {
      bar.opened += day.opened;
      bar.ended += day.ended;
    }
  }
  return bars;
}

function months(stretch: Stretch): CalendarDate[] {
  const all: CalendarDate[] = [];
  for (
    let month = stretch.from.set({ day: 1 });
    month.compare(stretch.to) < 0;
    month = month.add({ months: 1 })
  ) {
    if (month.compare(stretch.from) >= 0) all.push(month);
  }
  return all;
}

/** The ruler's keys, wherever one is, unless something is being typed. */
function useKeys(day: CalendarDate, today: CalendarDate, move: (day: CalendarDate) => void) {
  useEffect(() => {
    const onKey = (event: globalThis.KeyboardEvent) => {
      if (isTyping(event) || event.ctrlKey || event.metaKey || event.altKey) return;
      const next = keyMove(event.key, day, today, false);
      if (next !== undefined) {
        event.preventDefault();
        move(next);
      }
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [day, today, move]);
}
