import { describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { endOf, firstOf, standingsOf } from './standings';

const ZONE = 'Europe/Lisbon';

function step(at: string, passages: string[], before = false) {
  return {
    at,
    before,
    passages: passages.map((at) => ({ at, standing: [{ name: at }] })),
    people: [{ name: at }],
  };
}

const REPORT = {
  steps: [
    step('2030-03-01T09:00:00Z', [], true),
    step('2030-03-04T09:00:00Z', ['2030-03-04T09:00:00Z']),
    step('2030-04-01T08:00:00Z', ['2030-03-14T09:00:00Z', '2030-03-31T23:30:00Z']),
  ],
} as unknown as Schemas['RehearsalReport'];

describe('the days of a story', () => {
  const all = standingsOf(REPORT);
  const on = (day: number) => {
    const { standing, position } = endOf(day, all, firstOf(REPORT), ZONE);
    return [standing?.people[0]?.name, standing?.byItself, position];
  };

  it('are counted from its first step on; what was before has days below zero', () => {
    expect(on(-3)).toEqual(['2030-03-01T09:00:00Z', false, 0]);
    expect(on(-1)).toEqual(['2030-03-01T09:00:00Z', false, 0]);
    expect(on(0)).toEqual(['2030-03-04T09:00:00Z', false, 1]);
  });

  it('end with what came by itself, after the step that came last', () => {
    expect(on(9)).toEqual(['2030-03-04T09:00:00Z', false, 1]);
    expect(on(10)).toEqual(['2030-03-14T09:00:00Z', true, 1]);
  });

  it("are days of the school's calendar, over a change of clocks too", () => {
    // 23:30 UTC is half past midnight of 1 April in Lisbon, where the step follows in the morning
    expect(on(27)).toEqual(['2030-03-14T09:00:00Z', true, 1]);
    expect(on(28)).toEqual(['2030-04-01T08:00:00Z', false, 2]);
  });
});
