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

  it('say when they begin and end, up to where, and what they serve', () => {
    const terms = {
      length: 'held',
      refund: 'end',
      starts: { after: 'P3D' },
      until: '2027-01-01T00:00:00',
      tier: 'core',
      repeat: 'extend',
      applies: { from: '2026-03-01T00:00:00Z' },
    };
    expect(inACell(terms)).toBe('always core + ·');
    expect(inWords(terms)).toBe(
      '3 days later, always, until 1 Jan 2027 at the latest, up to core; again adds to it; a refund closes it; only what begins from 1 Mar 2026',
    );
    expect(inWords(terms, { sort: 'level', subscribed: false })).toContain('as long as it is held');
    expect(inWords({ length: 'held', refund: 'end' }, { sort: 'product', subscribed: true })).toBe(
      'as long as it is paid for; a refund closes it',
    );
    expect(sameTerms(terms, { ...terms, starts: { after: 'P4D' } })).toBe(false);
    expect(sameTerms({ refund: 'end', length: 'held' }, { length: 'held', refund: 'end' })).toBe(true);
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
