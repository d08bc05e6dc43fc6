import { describe, expect, it } from 'vitest';
import {
  become,
  countBefore,
  idOf,
  statements,
  withEarlier,
  withSteps,
  wordOf,
  type Expected,
  type Story,
} from './model';

const STORY: Story = {
  yoru: 'story/1',
  id: 'one',
  starts: '2030-03-04T09:00',
  people: [{ id: 'ines' }],
  before: [{ at: '2029-03-04T09:00', buys: { lines: [{ product: 'A' }] } }],
  steps: [
    { buys: { lines: [{ product: 'B' }] } },
    { after: 'P1D', pays: {} },
    { expect: { open: ['course/a'] } },
  ],
};

describe('a story', () => {
  it('is changed where a step stands, also before it starts', () => {
    expect(withSteps(STORY, 1, 0, { after: 'P1D' }).steps.map(wordOf)).toEqual([
      undefined,
      'buys',
      'pays',
      'expect',
    ]);
    expect(withSteps(STORY, 3, 1).steps.map(wordOf)).toEqual(['buys', 'pays']);
    const bare = withSteps(STORY, 0, 1);
    expect(bare.before).toBeUndefined();
    expect(bare.steps).toEqual(STORY.steps);
  });

  it('begins a year earlier where something was so already', () => {
    const bare: Story = { ...withSteps(STORY, 0, 1), starts: '2032-02-29T09:00' };
    expect(withEarlier(bare).before).toEqual([{ at: '2031-02-28T09:00' }]);
    expect(withEarlier(STORY).before?.[1]).toEqual({ at: '2029-03-04T09:00' });
  });

  it('counts the orders that a step can be about', () => {
    expect(countBefore(STORY, 0, 'buys')).toBe(0);
    expect(countBefore(STORY, 2, 'buys')).toBe(2);
  });

  it('keeps when and who where a step becomes another, and asks for what it needs', () => {
    const first = (kind: string) => (kind === 'level' ? 'keeper' : undefined);
    expect(become({ after: 'P1D', who: 'ines', pays: { order: 2 } }, 'gets-level', first)).toEqual({
      after: 'P1D',
      who: 'ines',
      'gets-level': { level: 'keeper' },
    });
    expect(become({ after: 'P1D', who: 'ines', pays: {} }, 'expect', first)).toEqual({
      after: 'P1D',
      expect: {},
    });
    expect(become({ after: 'P1D', pays: {} }, undefined, first)).toEqual({ after: 'P1D' });
  });
});

describe('what should be so', () => {
  const expected: Expected = {
    open: ['course/a'],
    until: { 'course/a': '2031-03-04', 'tag/b': 'never' },
    exactly: [],
    done: ['give tag/b'],
    told: { classroom: { open: ['course/a'], closed: ['course/c'] } },
  };

  it('is said one by one, and each can be taken out by itself', () => {
    const all = statements(expected, (path) => path.toUpperCase());
    expect(all.map(({ words }) => words)).toEqual([
      'COURSE/A is open',
      'COURSE/A is open until 2031-03-04',
      'TAG/B is open without an end',
      'nothing is open',
      'done: give tag/b',
      'classroom holds COURSE/A, not COURSE/C',
    ]);
    expect(all[0]?.rest.open).toBeUndefined();
    expect(all[1]?.rest.until).toEqual({ 'tag/b': 'never' });
    expect(all[5]?.rest.told).toBeUndefined();
    expect(all[5]?.rest.open).toEqual(['course/a']);
  });
});

it('gives a story an id of its own', () => {
  expect(idOf('A guest, paid later', (id) => id === 'a-guest-paid-later')).toBe('a-guest-paid-later-2');
  expect(idOf('…', () => false)).toBe('story');
});
