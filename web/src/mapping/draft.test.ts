import { describe, expect, it } from 'vitest';
import {
  asDraft,
  cellKey,
  contested,
  effectiveCells,
  isEmpty,
  NO_DRAFT,
  published,
  reduce,
  size,
  type Act,
  type Draft,
} from './draft';
import type { Terms } from './terms';

const YEAR: Terms = { length: 'P1Y', refund: 'end' };
const ALWAYS: Terms = { length: 'held', refund: 'end' };
const QUEEN = cellKey('product/QUEEN', 'course/queen-rearing');
const FIRST = cellKey('product/FIRST', 'course/first-hive');
const NOW = published([{ source: 'product/FIRST', target: 'course/first-hive', terms: YEAR }]);

const NOTHING = () => null;

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
    expect(effectiveCells(changed, NOW).get(FIRST)).toEqual(ALWAYS);
    expect(effectiveCells(changed, NOW).get(QUEEN)).toEqual(YEAR);
    expect(changed.base).toBe(3);
    expect(asDraft(changed).changes).toEqual([
      { source: 'product/FIRST', target: 'course/first-hive', terms: ALWAYS },
      { source: 'product/QUEEN', target: 'course/queen-rearing', terms: YEAR },
    ]);
    expect(isEmpty(reduce(reduce(changed, set(FIRST, YEAR)), set(QUEEN, null)))).toBe(true);
  });

  it('says that a cell no longer opens by leaving the terms out', () => {
    expect(asDraft(after(set(FIRST, null))).changes).toEqual([
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
    expect(contested(draft, NOW, NOTHING)).toEqual([]);
    expect(contested(draft, others, NOTHING).toSorted()).toEqual([FIRST, QUEEN].toSorted());
    expect(reduce(draft, set(FIRST, YEAR, others, 4)).base).toBe(3);
    const carried = reduce(draft, {
      act: 'carry-over',
      published: others,
      things: NOTHING,
      version: 4,
      without: [],
    });
    expect(carried.base).toBe(4);
    expect(asDraft(carried).changes).toEqual([{ source: 'product/FIRST', target: 'course/first-hive' }]);
    expect(contested(carried, others, NOTHING)).toEqual([]);
  });

  it('leaves to the other what was left to them', () => {
    const others = published([{ source: 'product/FIRST', target: 'course/first-hive', terms: ALWAYS }]);
    const level = reduce(after(set(QUEEN, YEAR), set(FIRST, null)), {
      act: 'set',
      things: [['level/keeper', { title: 'Keeper' }, null]],
      published: NOW,
      version: 3,
    });
    const things = (path: string) => (path === 'level/keeper' ? { title: 'Warden' } : null);
    expect(contested(level, others, things).toSorted()).toEqual([FIRST, 'level/keeper'].toSorted());
    const without = [FIRST, 'level/keeper'];
    const merged = reduce(level, { act: 'carry-over', published: others, things, version: 4, without });
    expect(asDraft(merged)).toEqual({
      changes: [{ source: 'product/QUEEN', target: 'course/queen-rearing', terms: YEAR }],
    });
  });

  it('keeps things beside cells, and undoes both', () => {
    const keeper = { id: 'keeper', title: 'Keeper', rank: 2 };
    const made: Act = {
      act: 'set',
      cells: [[cellKey('level/keeper', 'course/queen-rearing'), ALWAYS]],
      things: [['level/keeper', keeper, null]],
      published: NOW,
      version: 3,
    };
    const draft = after(made);
    expect(asDraft(draft).things).toEqual([{ thing: 'level/keeper', to: keeper }]);
    expect(size(draft)).toBe(2);
    expect(isEmpty(reduce(draft, { act: 'undo' }))).toBe(true);
    const gone = reduce(draft, { ...made, cells: [], things: [['level/keeper', null, null]] });
    expect(asDraft(gone).things).toBeUndefined();
  });

  it('says of a whole rulebook also what is to stay as it is', () => {
    const loaded = reduce(NO_DRAFT, {
      act: 'load',
      draft: {
        document: 'yoru: rulebook/1',
        cells: [{ source: 'product/FIRST', target: 'course/first-hive' }],
        things: [],
      },
      published: NOW,
      things: NOTHING,
      version: 3,
    });
    const kept = reduce(loaded, set(FIRST, YEAR));
    expect(isEmpty(kept)).toBe(true);
    expect(asDraft(kept).changes).toEqual([
      { source: 'product/FIRST', target: 'course/first-hive', terms: YEAR },
    ]);
  });

  it('shows terms under a name as the draft changes them', () => {
    const shared = published([
      {
        source: 'product/FIRST',
        target: 'course/first-hive',
        terms: { ...YEAR, named: 'year', tier: 'core' },
      },
    ]);
    const draft = after({
      act: 'set',
      things: [['terms/year', { terms: { length: 'P2Y' } }, { terms: { length: 'P1Y' } }]],
      published: shared,
      version: 3,
    });
    expect(effectiveCells(draft, shared).get(FIRST)).toEqual({
      length: 'P2Y',
      refund: 'end',
      named: 'year',
      tier: 'core',
    });
  });

  it('keeps apart products and courses whose names run together', () => {
    expect(cellKey('A', 'B-C')).not.toBe(cellKey('A-B', 'C'));
    expect(cellKey('A","B', 'C')).not.toBe(cellKey('A', 'B","C'));
  });
});
