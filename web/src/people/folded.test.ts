import { expect, test } from 'vitest';
import type { Schemas } from '../api/client';
import { folded } from './folded';

function target(path: string, ...windows: [start: string, end?: string][]): Schemas['ShownTarget'] {
  return {
    target: path,
    sort: path.split('/')[0] ?? '',
    title: path,
    systems: [],
    windows: windows.map(([start, end]) => ({ start, ...(end !== undefined && { end }), bars: [] })),
  } as unknown as Schemas['ShownTarget'];
}

test('sections that are open as their course is stand in its row, others below it', () => {
  const rows = folded([
    target('section/swarm/signs', ['2026-01-01', '2027-01-01']),
    target('level/keeper', ['2026-01-01']),
    target('section/swarm/day', ['2026-05-01', '2027-01-01']),
    target('course/swarm', ['2026-01-01', '2027-01-01']),
    target('section/swarm-two/signs', ['2026-01-01', '2027-01-01']),
  ]);
  expect(rows.map(({ target: { target: path }, inside, part }) => [path, inside.length, part])).toEqual([
    ['course/swarm', 1, false],
    ['section/swarm/day', 0, true],
    ['level/keeper', 0, false],
    ['section/swarm-two/signs', 0, false],
  ]);
});
