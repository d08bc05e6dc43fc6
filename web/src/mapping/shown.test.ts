import { describe, expect, it } from 'vitest';
import { cellKey, effectiveCells, NO_DRAFT, published, type Draft } from './draft';
import {
  choosing,
  covering,
  type Grid,
  isForMembers,
  isUnfinished,
  sharedTerms,
  shown,
  type SourceRow,
  used,
  waysAround,
  withDrafted,
} from './shown';
import type { Terms } from './terms';

const YEAR: Terms = { length: 'P1Y', refund: 'end' };

function source(path: string, title: string, category: string, parent?: string): SourceRow {
  const sort = path.slice(0, path.indexOf('/'));
  const row = {
    source: path,
    sort,
    title,
    category,
    categories: sort === 'product' || sort === 'option' ? [category] : [],
    thing: false,
    subscribed: false,
    listed: true,
    buyers: 0,
  };
  return parent === undefined ? row : { ...row, parent };
}

const GRID: Grid = {
  version: 3,
  tiers: [],
  terms: [{ id: 'year', title: 'A year', terms: YEAR }],
  sources: [
    source('product/QUEEN', 'Queen Rearing', 'Courses'),
    source('option/Q-SELF', 'self-paced', 'Courses', 'product/QUEEN'),
    source('option/Q-LIVE', 'live', 'Courses', 'product/QUEEN'),
    source('product/POLLEN', 'Pollen Lab', 'Courses'),
    source('completed/queen', 'Queen Rearing', 'Finished courses'),
  ],
  targets: [
    {
      target: 'category/Advanced',
      sort: 'category',
      title: 'All of Advanced',
      category: 'Advanced',
      categories: [],
      listed: true,
    },
    {
      target: 'course/queen',
      sort: 'course',
      title: 'Queen Rearing',
      category: 'Advanced',
      categories: ['Advanced', 'live'],
      listed: true,
    },
    {
      target: 'section/queen/graft',
      sort: 'section',
      title: 'Grafting',
      category: 'Advanced',
      categories: [],
      parent: 'course/queen',
      listed: true,
    },
    {
      target: 'course/first',
      sort: 'course',
      title: 'First Hive',
      category: 'Starter',
      categories: ['Starter'],
      listed: true,
    },
  ],
  cells: [{ source: 'option/Q-SELF', target: 'course/queen', terms: YEAR }],
};

const NOW = published(GRID.cells);

function wish(part: Partial<Parameters<typeof shown>[2]> = {}) {
  const all = { words: '', unfinished: false, everything: false, turned: new Set<string>(), ...part };
  const { sources, targets } = shown(GRID, used(NOW, GRID), all);
  return [sources.map((row) => row.source), targets.map((column) => column.target)];
}

describe('what of the grid is shown', () => {
  it('leaves out what is seldom used until it is used or asked for', () => {
    const [sources, targets] = wish();
    expect(sources).not.toContain('completed/queen');
    expect(targets).toEqual(['course/queen', 'course/first']);
    expect(wish({ everything: true })[1]).toHaveLength(4);
  });

  it('unfolds sections and folds options', () => {
    expect(wish({ turned: new Set(['course/queen']) })[1]).toContain('section/queen/graft');
    expect(wish({ turned: new Set(['product/QUEEN']) })[0]).toEqual(['product/QUEEN', 'product/POLLEN']);
  });

  it('filters sources by a word that names some, and targets where it names none', () => {
    expect(wish({ words: 'pollen' })).toEqual([['product/POLLEN'], ['course/queen', 'course/first']]);
    expect(wish({ words: 'first' })[1]).toEqual(['course/first']);
    expect(wish({ words: 'first' })[0]).toHaveLength(4);
    expect(wish({ words: 'Queen > first' })[1]).toEqual(['course/first']);
    expect(wish({ words: 'pollen > queen' })).toEqual([['product/POLLEN'], ['course/queen']]);
    expect(wish({ words: ' > first' })[0]).toHaveLength(4);
    expect(wish({ words: 'bees > first' })[0]).toEqual([]);
  });

  it('shows what is unfinished: nothing opened, or an option beside its mapped sibling', () => {
    expect(wish({ unfinished: true })[0]).toEqual(['option/Q-LIVE', 'product/POLLEN']);
    const inUse = used(new Map(), GRID);
    const live = GRID.sources[2];
    expect(live && isUnfinished(live, GRID, inUse)).toBe(false);
  });

  it('finds the ways into a course through its category, and the same without it', () => {
    const hive = { target: 'course/hive', sort: 'course', categories: ['spring', 'starter'] };
    const inUse = used(
      new Map([
        [cellKey('product/ALL', 'category/starter'), YEAR],
        [cellKey('product/BUT', 'category/starter'), { ...YEAR, except: ['hive'] }],
        [cellKey('product/OTHER', 'category/advanced'), YEAR],
      ]),
      GRID,
    );
    const ways = waysAround(inUse, hive);
    expect(ways.map((way) => way.source)).toEqual(['product/ALL']);
    expect(ways[0]?.words).toBe('all of starter');
    expect(ways[0]?.without?.except).toEqual(['hive']);
    expect(waysAround(inUse, { ...hive, sort: 'area' })).toEqual([]);
  });

  it('finds what opens a cell that has no link of its own', () => {
    const [, self] = GRID.sources;
    const [, queen] = GRID.targets;
    if (self === undefined || queen === undefined) throw new Error('the grid of this test is another');
    const words = (cells: [string, string][]) =>
      covering(used(new Map(cells.map(([from, to]) => [cellKey(from, to), YEAR])), GRID), self, queen).map(
        (way) => `${way.words}${way.without === undefined ? '' : ' …'}`,
      );
    expect(words([['option/Q-SELF', 'course/queen']])).toEqual([]);
    expect(words([['product/QUEEN', 'course/queen']])).toEqual(['the whole product']);
    expect(words([['product/QUEEN', 'category/live']])).toEqual(['all of live …']);
    expect(words([['category/Courses', 'course/queen']])).toEqual(['anything of Courses']);
    expect(words([['category/Courses', 'category/Advanced']])).toEqual([
      'anything of Courses opens all of Advanced …',
    ]);
    expect(words([['category/Other', 'course/queen']])).toEqual([]);
    expect(words([['product/QUEEN', 'category/Starter']])).toEqual([]);
  });

  it('says who may choose a course', () => {
    const levels = [
      { id: 'any', allowance: { courses: 2 } },
      { id: 'live', allowance: { courses: 1, categories: ['live'] } },
      { id: 'but', allowance: { courses: 1, except: ['queen'] } },
      { id: 'starter', allowance: { courses: 1, categories: ['Starter'] } },
      { id: 'none' },
    ];
    const [, queen] = GRID.targets;
    expect(queen && choosing(levels, queen).map(({ level }) => level.id)).toEqual(['any', 'live']);
  });

  it('says whether members get a course as such, an excepted one not', () => {
    const [, queen] = GRID.targets;
    if (queen === undefined) throw new Error('the grid of this test is another');
    const opens = (from: string, to: string, except?: string[]) =>
      used(new Map([[cellKey(from, to), { ...YEAR, ...(except !== undefined && { except }) }]]), GRID);
    const none = [{ id: 'keeper' }];
    expect(isForMembers(none, opens('level/keeper', 'course/queen'), queen)).toBe(true);
    expect(isForMembers(none, opens('level/keeper', 'category/live'), queen)).toBe(true);
    expect(isForMembers(none, opens('level/keeper', 'category/live', ['queen']), queen)).toBe(false);
    expect(isForMembers(none, opens('product/QUEEN', 'course/queen'), queen)).toBe(false);
    expect(
      isForMembers([{ id: 'any', allowance: { courses: 1 } }], opens('product/QUEEN', 'course/queen'), queen),
    ).toBe(true);
  });

  it('counts a course as opened by its category, but for the exceptions', () => {
    const whole = (except?: string[]) =>
      used(
        new Map([
          [
            cellKey('product/POLLEN', 'category/Advanced'),
            { ...YEAR, ...(except !== undefined && { except }) },
          ],
        ]),
        GRID,
      ).targets;
    expect(whole()).toContain('course/queen');
    expect(whole(['queen'])).not.toContain('course/queen');
  });

  it('has what only the draft knows: what it maps to, what it makes, and its terms under a name', () => {
    const draft: Draft = {
      ...NO_DRAFT,
      base: 3,
      changes: { [cellKey('level/keeper', 'course/first')]: { to: { ...YEAR, named: 'half' }, was: null } },
      things: {
        'level/keeper': { to: { title: 'Keeper' }, was: null },
        'tag/member': { to: { title: 'Member' }, was: null },
        'terms/half': { to: { title: 'Half a year', terms: { length: 'P6M' } }, was: null },
        'terms/year': { to: null, was: { title: 'A year', terms: { length: 'P1Y' } } },
      },
    };
    const grid = withDrafted(GRID, draft);
    expect(grid.sources.find((row) => row.source === 'level/keeper')?.title).toBe('Keeper');
    expect(grid.targets.map((column) => column.target)).toEqual(
      expect.arrayContaining(['level/keeper', 'tag/member']),
    );
    expect(sharedTerms(grid, draft)).toEqual([
      { id: 'half', title: 'Half a year', terms: { length: 'P6M', refund: 'end' } },
    ]);
    expect(effectiveCells(draft, NOW).get(cellKey('level/keeper', 'course/first'))?.length).toBe('P6M');
    expect(withDrafted(GRID, NO_DRAFT)).toBe(GRID);
  });
});
