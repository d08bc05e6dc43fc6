import type { Schemas } from '../api/client';
import { dayOf } from '../ui/dates';

type Report = Schemas['RehearsalReport'];

/** How everybody stands from a moment on. */
export interface Standings {
  at: string;
  /** The step that it is after; of what came by itself, the one that comes next. */
  position: number;
  byItself: boolean;
  people: Schemas['RehearsedStanding'][];
}

/** When a story begins; days are counted from then. */
export function firstOf(report: Report): string {
  return report.steps.find((step) => !step.before)?.at ?? report.steps[0]?.at ?? '';
}

export function dayNumber(at: string, first: string, zone: string): number {
  return dayOf(at, zone).compare(dayOf(first, zone));
}

/** "Day 10" of a story. */
export function dayWords(at: string, first: string, zone: string): string {
  return `Day ${dayNumber(at, first, zone)}`;
}

/** Every moment at which anything changes, in its order. */
export function standingsOf(report: Report): Standings[] {
  return report.steps.flatMap((step, position) => [
    ...step.passages
      .filter((passage) => passage.at !== step.at)
      .map((passage) => ({ at: passage.at, position, byItself: true, people: passage.standing })),
    { at: step.at, position, byItself: false, people: step.people },
  ]);
}

/** How everybody stands when a day of the story ends, and which step came last; on a day before it begins, its first moment. */
export function endOf(day: number, all: Standings[], first: string, zone: string) {
  const by = all.filter((one) => dayNumber(one.at, first, zone) <= day);
  return {
    standing: by.at(-1) ?? all[0],
    position: by.findLast((one) => !one.byItself)?.position ?? 0,
  };
}
