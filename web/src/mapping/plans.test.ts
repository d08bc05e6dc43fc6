import { expect, test } from 'vitest';
import { billingOf, isPaidAs, planInWords } from './plans';

test('what a shop says of a plan is said in words, and as the mapping would say it', () => {
  const parts = { count: 3, every: 'P1M', grace: 'P7D' };
  const monthly = { every: 'P1M', trial: 'P14D', cycles: 6 };
  expect(planInWords(parts)).toBe('in 3 parts, one every month');
  expect(planInWords(monthly)).toBe('every month, 6 times, the first 14 days free');
  expect(billingOf(parts)).toEqual({ kind: 'instalments', count: 3, every: 'P1M', grace: 'P7D' });
  expect(billingOf(monthly)).toEqual({ kind: 'recurring', every: 'P1M', cycles: 6 });
});

test('only what decides about payments is compared', () => {
  const plan = { count: 3, every: 'P1M', grace: 'P7D' };
  expect(isPaidAs({ kind: 'instalments', count: 3, every: 'P1M', grace: 'P14D' }, plan)).toBe(true);
  expect(isPaidAs({ kind: 'instalments', count: 4, every: 'P1M' }, plan)).toBe(false);
  expect(isPaidAs({ kind: 'once' }, plan)).toBe(false);
});
