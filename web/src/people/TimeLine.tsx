import { useMemo } from 'react';
import type { Schemas } from '../api/client';
import { useSession } from '../session/session';
import { dayOf, shownDate, shownMonth } from '../ui/dates';
import { counted } from '../ui/words';
import { folded } from './folded';
import { extent, lanes, timeScale, type TimeScale } from './timeScale';
import './TimeLine.css';

interface Props {
  targets: Schemas['ShownTarget'][];
  asOf: Date;
  chosen: string | undefined;
  onChoose: (target: string) => void;
}

type Window = Schemas['ShownWindow'];

/** One row per target, a bar for each time it is open with its reasons inside; a row is chosen to see why. */
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
        {folded(targets).map(({ target, inside, part }) => (
          <li key={target.target} className={part ? 'pl-4' : undefined}>
            <button
              className="line-row"
              aria-pressed={[target, ...inside].some((one) => one.target === chosen)}
              onClick={() => onChoose(target.target)}
            >
              <span className="line-name">
                <strong>{target.title}</strong>
                <small>
                  {target.sort}
                  {inside.length > 0 && `, ${counted(inside.length, 'section', 'sections')}`}
                </small>
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

/** In pixels, as the style sheet has them. */
const BAR = 21;
const STRIPE = 3;

/** Per cent of the width below which a label would be cut to a letter or two. */
const NARROW = 10;

interface BarsProps {
  target: Schemas['ShownTarget'];
  x: TimeScale;
  asOf: Date;
  zone: string;
}

function Bars({ target, x, asOf, zone }: BarsProps) {
  return lanes(target.windows).map((lane, number) => (
    <span className="line-lane" key={number} style={{ height: heightOf(lane) }}>
      {lane.map((window) => {
        const where = extent(x, window.start, window.end);
        if (where === undefined) return null;
        const state = stateOf(window, asOf);
        const words = reasons(window, zone);
        return (
          <span
            key={window.start}
            className={`bar bar-bought bar-${state}${where.beyond ? ' bar-beyond' : ''}`}
            style={{ left: `${where.left}%`, width: `${where.width}%` }}
            title={words.join('\n')}
          >
            <span className={where.width < NARROW ? 'sr-only' : undefined}>{inABar(window)}</span>
            <span className="sr-only">, {state}</span>
            {window.bars.length > 1 && <Reasons window={window} x={x} />}
          </span>
        );
      })}
    </span>
  ));
}

/** A bar with several reasons has room for their stripes below its words. */
function heightOf(lane: Window[]): number {
  const most = Math.max(...lane.map(({ bars }) => bars.length));
  return BAR + (most > 1 ? most * STRIPE : 0);
}

/** What a bar says: its reason, and how many more keep it open. */
function inABar({ label, bars }: Window): string {
  const first = bars[0]?.label ?? label;
  return bars.length > 1 ? `${first}, and ${bars.length - 1} more` : first;
}

function reasons({ bars }: Window, zone: string): string[] {
  return bars.map(
    ({ label, start, end }) =>
      `${label}: ${shownDate(start, zone)} to ${end === undefined ? 'no end' : shownDate(end, zone)}`,
  );
}

/** Where several reasons keep the same open: a stripe for each, as long as it holds. */
function Reasons({ window, x }: { window: Window; x: TimeScale }) {
  const whole = extent(x, window.start, window.end);
  if (whole === undefined) return null;
  return (
    <span className="bar-reasons" aria-hidden="true">
      {window.bars.map((bar, number) => {
        const own = extent(x, bar.start, bar.end);
        return (
          own !== undefined && (
            <span
              key={number}
              style={{
                marginLeft: `${((own.left - whole.left) / whole.width) * 100}%`,
                width: `${(own.width / whole.width) * 100}%`,
              }}
            />
          )
        );
      })}
    </span>
  );
}

function stateOf(window: Window, asOf: Date): 'ended' | 'ahead' | 'open' {
  if (window.end !== undefined && new Date(window.end) <= asOf) return 'ended';
  return new Date(window.start) > asOf ? 'ahead' : 'open';
}
