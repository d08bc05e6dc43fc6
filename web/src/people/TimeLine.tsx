import { useMemo } from 'react';
import type { Schemas } from '../api/client';
import { useSession } from '../session/session';
import { dayOf, shownDate, shownMonth } from '../ui/dates';
import { extent, lanes, timeScale, type TimeScale } from './timeScale';
import './TimeLine.css';

interface Props {
  targets: Schemas['ShownTarget'][];
  asOf: Date;
  chosen: string | undefined;
  onChoose: (target: string) => void;
}

/** One row per target, a bar per reason; a row is chosen to see why. */
export function TimeLine({ targets, asOf, chosen, onChoose }: Props) {
  const { zone } = useSession();
  const x = useMemo(() => timeScale(targets, asOf), [targets, asOf]);
  const ticks = x.ticks(9).map((tick) => {
    const day = dayOf(tick, zone);
    return { at: x(tick), text: day.month === 1 ? String(day.year) : shownMonth(day), year: day.month === 1 };
  });
  return (
    <div className="line" role="group" aria-label="Time line">
      <div className="line-months" aria-hidden="true">
        {ticks.map((tick) => (
          <span key={tick.at} className={tick.year ? 'line-year' : undefined} style={{ left: `${tick.at}%` }}>
            {tick.text}
          </span>
        ))}
      </div>
      <ul>
        {targets.map((target) => (
          <li key={target.target}>
            <button
              className="line-row"
              aria-pressed={target.target === chosen}
              onClick={() => onChoose(target.target)}
            >
              <span className="line-name">
                <strong>{target.title}</strong>
                <small>{target.sort}</small>
              </span>
              <span className="line-bars">
                {ticks.map((tick) => (
                  <span key={tick.at} className="line-tick" style={{ left: `${tick.at}%` }} />
                ))}
                <Bars target={target} x={x} asOf={asOf} zone={zone} />
              </span>
            </button>
          </li>
        ))}
      </ul>
      <div className="line-lamp-place" aria-hidden="true">
        <span className="line-lamp" style={{ left: `${x(asOf)}%` }} />
      </div>
    </div>
  );
}

/** Per cent of the width below which a label would be cut to a letter or two. */
const NARROW = 6;

interface BarsProps {
  target: Schemas['ShownTarget'];
  x: TimeScale;
  asOf: Date;
  zone: string;
}

function Bars({ target, x, asOf, zone }: BarsProps) {
  const bars = target.windows.flatMap((window) => window.bars);
  return lanes(bars).map((lane, number) => (
    <span className="line-lane" key={number}>
      {lane.map((bar) => {
        const where = extent(x, bar.start, bar.end);
        if (where === undefined) return null;
        const state = stateOf(bar, asOf);
        return (
          <span
            key={`${bar.start} ${bar.label}`}
            className={`bar bar-bought bar-${state}${where.beyond ? ' bar-beyond' : ''}`}
            style={{ left: `${where.left}%`, width: `${where.width}%` }}
            title={`${bar.label}: ${shownDate(bar.start, zone)} to ${bar.end === undefined ? 'no end' : shownDate(bar.end, zone)}`}
          >
            <span className={where.width < NARROW ? 'sr-only' : undefined}>{bar.label}</span>
            <span className="sr-only">, {state}</span>
          </span>
        );
      })}
    </span>
  ));
}

function stateOf(bar: Schemas['Bar'], asOf: Date): 'ended' | 'ahead' | 'open' {
  if (bar.end !== undefined && new Date(bar.end) <= asOf) return 'ended';
  return new Date(bar.start) > asOf ? 'ahead' : 'open';
}
