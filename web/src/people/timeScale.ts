import { scaleTime, type ScaleTime } from 'd3-scale';
import type { Schemas } from '../api/client';

const MONTH = 30.44 * 86_400_000;
/** A year-long window and what surrounds it fit; what ended long ago does not squeeze the present. */
const LEAST_BEFORE = 6 * MONTH;
const LEAST_AFTER = 4 * MONTH;
const MOST_AFTER = 13 * MONTH;

export type TimeScale = ScaleTime<number, number>;

/** Per cent of the width, for every instant from the first start to some time after the as-of date. */
export function timeScale(targets: Schemas['ShownTarget'][], asOf: Date): TimeScale {
  const windows = targets.flatMap((target) => target.windows);
  const starts = windows.map((window) => new Date(window.start).getTime());
  const ends = windows.map((window) => (window.end === undefined ? 0 : new Date(window.end).getTime()));
  const from = Math.min(asOf.getTime() - LEAST_BEFORE, ...starts.map((start) => start - MONTH / 2));
  const to = Math.min(
    asOf.getTime() + MOST_AFTER,
    Math.max(asOf.getTime() + LEAST_AFTER, ...ends.map((end) => end + MONTH / 2)),
  );
  return scaleTime().domain([from, to]).range([0, 100]);
}

/** Where a bar begins and how wide it is, in per cent; nothing where it lies outside. */
export function extent(
  x: TimeScale,
  start: string,
  end: string | undefined,
): { left: number; width: number; beyond: boolean } | undefined {
  const left = Math.max(0, x(new Date(start)));
  const right = end === undefined ? 100 : Math.min(100, x(new Date(end)));
  if (right <= 0 || left >= 100) return undefined;
  return { left, width: Math.max(0.4, right - left), beyond: end === undefined || x(new Date(end)) > 100 };
}

/** Puts bars that overlap below each other. */
export function lanes<T extends { start: string; end?: string }>(bars: T[]): T[][] {
  const found: T[][] = [];
  for (const bar of bars) {
    const free = found.find((lane) => {
      const last = lane.at(-1);
      return last?.end !== undefined && new Date(last.end) <= new Date(bar.start);
    });
    if (free === undefined) found.push([bar]);
    else free.push(bar);
  }
  return found;
}
