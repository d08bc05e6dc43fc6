import { useSession } from '../session/session';
import { dayOf, shownDay } from '../ui/dates';
import { dayNumber, endOf, type Standings } from './standings';

/** A story's own ruler: any of its days, with a mark where something changes. */
export function Days({
  all,
  first,
  at,
  onDay,
}: {
  all: Standings[];
  first: string;
  /** The day at which it stands. */
  at: number;
  onDay: (day: number, position: number) => void;
}) {
  const { zone } = useSession();
  const days = all.map((one) => dayNumber(one.at, first, zone));
  const from = days[0] ?? 0;
  const to = days.at(-1) ?? 0;
  if (from === to) return null;
  return (
    <div className="grid gap-1">
      <input
        type="range"
        className="w-full cursor-pointer accent-primary"
        aria-label="Day of the story"
        aria-valuetext={`Day ${at}, ${shownDay(dayOf(first, zone).add({ days: at }))}`}
        min={from}
        max={to}
        value={at}
        onChange={(event) => {
          const day = Number(event.target.value);
          onDay(day, endOf(day, all, first, zone).position);
        }}
      />
      <div className="relative mx-2 h-2" aria-hidden="true">
        {[...new Set(days)].map((day) => (
          <span
            key={day}
            className="absolute h-2 w-0.5 -translate-x-1/2 bg-lamp"
            style={{ left: `${((day - from) / (to - from)) * 100}%` }}
          />
        ))}
      </div>
      <div className="flex justify-between font-code text-2xs text-soft" aria-hidden="true">
        <span>Day {from}</span>
        <span>Day {to}</span>
      </div>
    </div>
  );
}
