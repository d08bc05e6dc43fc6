import { describe, expect, it } from 'vitest';
import { inACell, inWords, sameTerms } from './terms';

describe('terms', () => {
  it.each([
    ['held', 'end', 'always', 'always; a refund closes it'],
    ['P1Y', 'end', '1y', 'for 1 year; a refund closes it'],
    ['P1M', 'keep', '1m, kept', 'for 1 month; a refund leaves it open'],
    ['P30D', 'end', '30d', 'for 30 days; a refund closes it'],
    ['P1Y6M', 'end', '1y 6m', 'for 1 year 6 months; a refund closes it'],
    ['P2W', 'end', '2w', 'for 2 weeks; a refund closes it'],
  ])('%s, refund: %s', (length, refund, cell, words) => {
    expect(inACell({ length, refund })).toBe(cell);
    expect(inWords({ length, refund })).toBe(words);
  });

  it('say what share given back closes it, and compare it too', () => {
    const half = { length: 'P1Y', refund: 'end', refundShare: 0.5 };
    expect(inWords(half)).toBe('for 1 year; giving back 50 % of what was paid closes it');
    expect(sameTerms(half, { length: 'P1Y', refund: 'end' })).toBe(false);
    expect(sameTerms(half, { ...half })).toBe(true);
    expect(sameTerms(null, half)).toBe(false);
    expect(sameTerms(null, null)).toBe(true);
  });
});
