import type { Schemas } from '../api/client';

export type Segment = Schemas['SegmentSheet'];
export type Condition = Schemas['ConditionSheet'];
export type Kind = Condition['kind'];

/** What a condition is about. */
export type Needs = 'target' | 'course' | 'within' | 'products' | 'counts' | 'days' | 'words';

interface Sort {
  kind: Kind;
  is: string;
  isNot: string;
  needs: Needs[];
}

export const SORTS: Sort[] = [
  { kind: 'HAS', is: 'have', isNot: 'do not have', needs: ['target'] },
  { kind: 'HAD', is: 'had, and have no more', isNot: 'never lost', needs: ['target'] },
  { kind: 'WILL_LOSE', is: 'will lose', isNot: 'will not lose', needs: ['target', 'within'] },
  { kind: 'LOSES_A_COURSE', is: 'will lose some course', isNot: 'will lose no course', needs: ['within'] },
  { kind: 'BOUGHT', is: 'bought', isNot: 'did not buy', needs: ['products', 'counts'] },
  {
    kind: 'FIRST_BOUGHT',
    is: 'bought for the first time',
    isNot: 'did not buy for the first time',
    needs: ['products', 'days'],
  },
  { kind: 'COULD_CHOOSE', is: 'could choose, and have not', isNot: 'could not choose', needs: ['course'] },
  { kind: 'CALLED', is: 'are called', isNot: 'are not called', needs: ['words'] },
];

export function sortOf(kind: Kind): Sort {
  const sort = SORTS.find((one) => one.kind === kind);
  if (sort === undefined) throw new Error(kind);
  return sort;
}

/** A condition of another kind, keeping what both kinds have. */
export function become(condition: Condition, kind: Kind, not: boolean): Condition {
  const needs = sortOf(kind).needs;
  return {
    kind,
    not,
    ...(needs.includes('target') && condition.target !== undefined && { target: condition.target }),
    ...(needs.includes('within') && { within: condition.within ?? 'P14D' }),
    ...(needs.includes('products') && {
      products: condition.products ?? [],
      ...(condition.categories !== undefined && { categories: condition.categories }),
    }),
    ...(needs.includes('counts') && { counts: condition.counts ?? 'PAID' }),
    ...(needs.includes('days') && {
      ...(condition.from !== undefined && { from: condition.from }),
      ...(condition.to !== undefined && { to: condition.to }),
    }),
    ...(needs.includes('course') && condition.course !== undefined && { course: condition.course }),
    ...(needs.includes('words') && { words: condition.words ?? '' }),
  };
}

/** Whether all is filled in that a condition of its kind needs. */
export function isComplete(condition: Condition): boolean {
  return sortOf(condition.kind).needs.every((need) => {
    switch (need) {
      case 'target':
        return condition.target !== undefined;
      case 'course':
        return condition.course !== undefined;
      case 'products':
        return (condition.products ?? []).length + (condition.categories ?? []).length > 0;
      case 'days':
        return condition.from !== undefined && condition.to !== undefined;
      case 'words':
        return (condition.words ?? '').trim() !== '';
      case 'within':
      case 'counts':
        return true;
    }
  });
}
