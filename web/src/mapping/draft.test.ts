import { describe, expect, it } from 'vitest';
import {
  asCells,
  cellKey,
  contested,
  effective,
  isEmpty,
  NO_DRAFT,
  published,
  reduce,
  type Act,
  type Draft,
} from './draft';
import type { Terms } from './terms';

const YEAR: Terms = { length: 'P1Y', refund: 'end' };
const ALWAYS: Terms = { length: 'held', refund: 'end' };
const QUEEN = cellKey('product/QUEEN', 'course/queen-rearing');
const FIRST = cellKey('product/FIRST', 'course/first-hive');
const NOW = published([{ source: 'product/FIRST', target: 'course/first-hive', terms: YEAR }]);

function set(key: string, to: Terms | null, now = NOW, version = 3): Act {
  return { act: 'set', cells: [[key, to]], published: now, version };
}

function after(...acts: Act[]): Draft {
  return acts.reduce(reduce, NO_DRAFT);
}

describe('a draft', () => {
  it('holds only what differs from what is published', () => {
    expect(isEmpty(after(set(FIRST, YEAR)))).toBe(true);
    const changed = after(set(FIRST, ALWAYS), set(QUEEN, YEAR));
    expect(effective(changed, NOW, FIRST)).toEqual(ALWAYS);
    expect(effective(changed, NOW, QUEEN)).toEqual(YEAR);
    expect(changed.base).toBe(3);
    expect(asCells(changed)).toEqual([
      { source: 'product/FIRST', target: 'course/first-hive', terms: ALWAYS },
      { source: 'product/QUEEN', target: 'course/queen-rearing', terms: YEAR },
    ]);
    expect(isEmpty(reduce(reduce(changed, set(FIRST, YEAR)), set(QUEEN, null)))).toBe(true);
  });

  it('says that a cell no longer opens by leaving the terms out', () => {
    expect(asCells(after(set(FIRST, null)))).toEqual([
      { source: 'product/FIRST', target: 'course/first-hive' },
    ]);
  });

  it('goes back and forth step by step, and a new step forgets what was undone', () => {
    const steps = [set(QUEEN, YEAR), set(QUEEN, ALWAYS), set(FIRST, null)];
    const states = steps.map((_, at) => after(...steps.slice(0, at + 1)).changes);
    let draft = after(...steps);
    for (const state of [states[1], states[0], {}, {}]) {
      draft = reduce(draft, { act: 'undo' });
      expect(draft.changes).toEqual(state);
    }
    for (const state of [states[0], states[1], states[2], states[2]]) {
      draft = reduce(draft, { act: 'redo' });
      expect(draft.changes).toEqual(state);
    }
    const anew = reduce(reduce(draft, { act: 'undo' }), set(FIRST, ALWAYS));
    expect(reduce(anew, { act: 'redo' })).toEqual(anew);
  });

  it('keeps the version it began with, names contested cells, and is carried over', () => {
    const draft = after(set(QUEEN, YEAR), set(FIRST, null));
    const others = published([
      { source: 'product/FIRST', target: 'course/first-hive', terms: ALWAYS },
      { source: 'product/QUEEN', target: 'course/queen-rearing', terms: YEAR },
    ]);
    expect(contested(draft, NOW)).toEqual([]);
    expect(contested(draft, others).toSorted()).toEqual([FIRST, QUEEN].toSorted());
    expect(reduce(draft, set(FIRST, YEAR, others, 4)).base).toBe(3);
    const carried = reduce(draft, { act: 'carry-over', published: others, version: 4 });
    expect(carried.base).toBe(4);
    expect(asCells(carried)).toEqual([{ source: 'product/FIRST', target: 'course/first-hive' }]);
    expect(contested(carried, others)).toEqual([]);
  });

  it('keeps apart products and courses whose names run together', () => {
    expect(cellKey('A', 'B-C')).not.toBe(cellKey('A-B', 'C'));
    expect(cellKey('A","B', 'C')).not.toBe(cellKey('A', 'B","C'));
  });
});
