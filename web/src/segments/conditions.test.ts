import { describe, expect, it } from 'vitest';
import { become, isComplete, SORTS, type Condition } from './conditions';

describe('a condition', () => {
  const lost: Condition = { kind: 'WILL_LOSE', not: false, target: 'course/first-hive', within: 'P1M' };

  it('keeps what it was about when it becomes another', () => {
    expect(become(lost, 'HAS', true)).toEqual({ kind: 'HAS', not: true, target: 'course/first-hive' });
    expect(become(lost, 'LOSES_A_COURSE', false)).toEqual({
      kind: 'LOSES_A_COURSE',
      not: false,
      within: 'P1M',
    });
    expect(become(lost, 'CALLED', false)).toEqual({ kind: 'CALLED', not: false, words: '' });
  });

  it('is complete only with everything its kind needs', () => {
    expect(isComplete(lost)).toBe(true);
    for (const { kind } of SORTS) {
      const bare = become({ kind: 'CALLED', not: false }, kind, false);
      expect(isComplete(bare), kind).toBe(kind === 'LOSES_A_COURSE');
    }
    expect(isComplete({ kind: 'BOUGHT', not: false, categories: ['Courses'] })).toBe(true);
    expect(isComplete({ kind: 'FIRST_BOUGHT', not: false, products: ['A'], from: '2026-01-01' })).toBe(false);
  });
});
