import { describe, expect, it } from 'vitest';
import said from '../../../docs/formats/terms-in-words.json';
import { forThoseWhoHaveIt, inACell, inWords, sameTerms, termsIn } from './terms';

describe('terms', () => {
  it.each(said.cases)('are said as the core says them: $words', ({ from, terms, applies, words }) => {
    const opener = { sort: from === 'subscription' ? 'product' : from, subscribed: from === 'subscription' };
    expect(inWords({ ...termsIn(terms), ...(applies !== undefined && { applies }) }, opener)).toBe(words);
  });

  it.each([
    ['held', 'end', 'always'],
    ['P1Y', 'end', '1y'],
    ['P1M', 'keep', '1m, kept'],
    ['P30D', 'end', '30d'],
    ['P1Y6M', 'end', '1y 6m'],
    ['P2W', 'end', '2w'],
  ])('fit into a cell: %s, refund: %s', (length, refund, cell) => {
    expect(inACell({ length, refund })).toBe(cell);
  });

  it('say up to where and without what, and have a dot for more than a cell can say', () => {
    const terms = {
      length: 'held',
      refund: 'end',
      starts: { after: 'P3D' },
      tier: 'core',
      repeat: 'extend',
      except: ['queen'],
    };
    expect(inACell(terms)).toBe('always core + ·');
    expect(inWords(terms)).toBe(
      'always, from 3 days later on, up to core, without 1 course; again adds to it; a refund ends it',
    );
    expect(sameTerms(terms, { ...terms, starts: { after: 'P4D' } })).toBe(false);
    expect(sameTerms({ refund: 'end', length: 'held' }, { length: 'held', refund: 'end' })).toBe(true);
  });

  it('are compared with the share that must be given back', () => {
    const half = { length: 'P1Y', refund: 'end', refundShare: 0.5 };
    expect(sameTerms(half, { length: 'P1Y', refund: 'end' })).toBe(false);
    expect(sameTerms(half, { ...half })).toBe(true);
    expect(sameTerms(null, half)).toBe(false);
    expect(sameTerms(null, null)).toBe(true);
  });
});

describe('terms for those who have it', () => {
  const YEAR = { length: 'P1Y', refund: 'end' };

  it('serve nobody who was not served before', () => {
    const bounds = { from: '2026-01-01T00:00:00Z', until: '2026-03-01T00:00:00Z', afterwards: 'take-back' };
    expect(forThoseWhoHaveIt({ ...YEAR, applies: bounds }).applies).toEqual({
      ...bounds,
      afterwards: 'run-out',
    });
  });

  it('end now where nothing said when', () => {
    const { applies } = forThoseWhoHaveIt(YEAR);
    expect(applies?.from).toBeUndefined();
    expect(Math.abs(Date.parse(applies?.until ?? '') - Date.now())).toBeLessThan(60_000);
  });
});
