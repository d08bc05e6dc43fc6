import { describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { extent, lanes, timeScale } from './timeScale';

const AS_OF = new Date('2026-11-24T12:00:00Z');

function target(start: string, end?: string): Schemas['ShownTarget'] {
  const window = {
    start,
    state: 'OPEN' as const,
    renews: false,
    label: '',
    bars: [],
    why: [],
    ...(end !== undefined && { end }),
  };
  return { target: 'course/x', title: 'X', sort: 'course', windows: [window], systems: [] };
}

describe('the time line', () => {
  it('shows everything from the first start on, and always some time around the lamp', () => {
    const x = timeScale([target('2025-02-14T10:00:00Z', '2026-02-14T10:00:00Z')], AS_OF);
    expect(x(new Date('2025-02-14T10:00:00Z'))).toBeGreaterThan(0);
    expect(x(AS_OF)).toBeGreaterThan(50);
    expect(x(AS_OF)).toBeLessThan(100);
    const alone = timeScale([], AS_OF);
    expect(alone(AS_OF)).toBeCloseTo(60, 0);
  });

  it('cuts bars off at its edges and says where they go on', () => {
    const x = timeScale([target('2026-01-01T00:00:00Z')], AS_OF);
    const forever = extent(x, '2026-01-01T00:00:00Z', undefined);
    expect(forever?.beyond).toBe(true);
    expect((forever?.left ?? 0) + (forever?.width ?? 0)).toBeCloseTo(100);
    expect(extent(x, '2020-01-01T00:00:00Z', '2021-01-01T00:00:00Z')).toBeUndefined();
    expect(extent(x, '2026-03-01T00:00:00Z', '2026-03-01T00:00:01Z')?.width).toBeGreaterThan(0.3);
  });

  it('puts what overlaps into lanes below each other, and what follows into the same one', () => {
    const bar = (start: string, end?: string) => ({ start, ...(end !== undefined && { end }) });
    const first = bar('2026-01-01T00:00:00Z', '2026-03-01T00:00:00Z');
    const second = bar('2026-02-01T00:00:00Z');
    const third = bar('2026-03-01T00:00:00Z', '2026-04-01T00:00:00Z');
    expect(lanes([first, second, third])).toEqual([[first, third], [second]]);
  });
});
