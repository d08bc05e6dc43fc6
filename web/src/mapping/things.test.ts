import { describe, expect, it } from 'vitest';
import { NO_DRAFT, type Draft } from './draft';
import { all, drafted, idFor, lookup, nameOfThing, without, type Things } from './things';

const THINGS: Things = {
  school: { zone: 'Europe/Dublin', currency: 'EUR', tiers: ['open'] },
  levels: [
    { id: 'keeper', title: 'Keeper', ladder: 'hive', rank: 2 },
    { id: 'warden', title: 'Warden', ladder: 'hive', rank: 3 },
  ],
};

function draft(things: Draft['things']): Draft {
  return { ...NO_DRAFT, base: 1, things };
}

describe('things of a rulebook', () => {
  it('are found by their paths', () => {
    const now = lookup(THINGS);
    expect(now('level/keeper')).toEqual({ id: 'keeper', title: 'Keeper', ladder: 'hive', rank: 2 });
    expect(now('school/tiers')).toEqual(['open']);
    for (const missing of ['level/nobody', 'school/ladders', 'bee/queen', 'tag/member']) {
      expect(now(missing)).toBeNull();
    }
    expect(lookup(undefined)('level/keeper')).toBeNull();
  });

  it('are as the draft has them: changed, made and gone', () => {
    const mine = draft({
      'level/keeper': { to: { title: 'Beekeeper' }, was: THINGS.levels?.[0] },
      'level/warden': { to: null, was: THINGS.levels?.[1] },
      'level/egg': { to: { title: 'Egg' }, was: null },
      'school/tiers': { to: ['open', 'core'], was: ['open'] },
    });
    const at = drafted(THINGS, mine);
    expect(at('level/keeper')).toEqual({ id: 'keeper', title: 'Beekeeper' });
    expect(at('level/warden')).toBeNull();
    expect(at('school/tiers')).toEqual(['open', 'core']);
    expect(all(THINGS, mine, 'level').map((level) => level.title)).toEqual(['Beekeeper', 'Egg']);
    expect(all(THINGS, NO_DRAFT, 'tag')).toEqual([]);
  });

  it('have names for people', () => {
    expect(nameOfThing('level/egg', { title: 'Egg' })).toBe('Level Egg');
    expect(nameOfThing('product/QUEEN', null)).toBe('Product QUEEN');
    expect(nameOfThing('school/opensOn', 'paid')).toBe('When things open');
  });

  it('get ids of their own from their names', () => {
    const taken = (id: string) => ['half-a-year', 'half-a-year-2'].includes(id);
    expect(idFor('Half a year', taken)).toBe('half-a-year-3');
    expect(idFor('  Bienenköniginnen! ', () => false)).toBe('bienenkoniginnen');
    expect(idFor('蜂', () => false)).toBe('new');
  });

  it('leave out what has its default', () => {
    expect(without({ id: 'a', rank: 1, title: 'A' }, 'rank', 'title')).toEqual({ id: 'a' });
  });
});
