import { describe, expect, it } from 'vitest';
import {
  columns,
  evened,
  hasThing,
  inserted,
  moved,
  oddOneOut,
  onces,
  pastedCells,
  placeOf,
  removed,
  usualOnce,
  withStep,
  type Followup,
  type Step,
} from './model';
import { whenInWords, type Names } from './words';

const tell = (text: string): Step => ({ tell: { text } });
const branch: Step = { if: [{ channel: 'shop' }], then: [tell('a'), tell('b')], otherwise: [tell('c')] };

describe('steps', () => {
  it('are called as rows call them', () => {
    expect(placeOf([3, 'then', 0])).toBe('4.then.1');
  });

  it('are changed, put in, moved and taken out where they stand, however deep', () => {
    const steps = [tell('first'), branch];
    expect(withStep(steps, [1, 'then', 1], tell('B'))[1]?.then?.[1]).toEqual(tell('B'));
    expect(inserted(steps, [1, 'otherwise', 1], tell('d'))[1]?.otherwise).toEqual([tell('c'), tell('d')]);
    expect(moved(steps, [1, 'then', 1], -1)[1]?.then).toEqual([tell('b'), tell('a')]);
    expect(moved(steps, [0], -1)).toEqual(steps);
    expect(removed(steps, [0])).toEqual([branch]);
    expect(steps).toEqual([tell('first'), branch]);
  });

  it('leave no branch behind in which nothing is done', () => {
    expect(removed([branch], [0, 'otherwise', 0])[0]).toEqual({ if: branch.if, then: branch.then });
  });
});

describe('how often it serves', () => {
  it('depends on what it waits for', () => {
    expect(usualOnce({ when: { paid: {} } })).toBe('order');
    expect(usualOnce({ when: { paid: {} }, each: 'line' })).toBe('thing');
    expect(usualOnce({ when: { ending: { of: [], before: 'P1D' } } })).toBe('always');
    expect(usualOnce({ when: { account: ['shop'] } })).toBe('person');
    expect(onces({ when: { opened: [] } })).toEqual(['always', 'thing', 'person']);
    expect(onces({ when: { paid: {} } })).toEqual(['always', 'order', 'person']);
    expect(hasThing({ when: { paid: {} } })).toBe(false);
  });
});

describe('rows', () => {
  const followup: Followup = {
    id: 'f',
    when: { paid: {} },
    each: 'line',
    steps: [tell('{{row.who}} and {{ row.area }}')],
    rows: [
      { for: { product: 'A' }, values: { area: 'hall' } },
      { for: { product: 'B' }, values: { area: 'hall' } },
      { for: { product: 'C' }, values: { area: 'yard' } },
    ],
  };

  it('have a column for all that is asked for, also where no row has it yet', () => {
    expect(columns(followup)).toEqual(['area', 'who']);
    expect(evened(followup.rows ?? [], ['area', 'who'])[0]?.values).toEqual({ area: 'hall', who: '' });
  });

  it('that differ from all others stand out', () => {
    expect(oddOneOut(['hall', 'hall', 'yard'])).toBe(2);
    expect(oddOneOut(['hall', 'yard'])).toBeUndefined();
    expect(oddOneOut(['a', 'b', 'c'])).toBeUndefined();
  });

  it('are pasted as a spreadsheet copies them', () => {
    expect(pastedCells('First Hive\thall \r\nHoney\tyard\r\n')).toEqual([
      ['First Hive', 'hall'],
      ['Honey', 'yard'],
    ]);
  });
});

describe('the sentence', () => {
  const names: Names = {
    product: (id) => `product ${id}`,
    option: (id) => id,
    thing: (_, id) => id,
    currency: 'EUR',
  };

  it('says what is waited for as one would', () => {
    expect(whenInWords({ paid: { categories: ['Courses'], products: ['A'] } }, names)).toBe(
      'somebody has paid for any of Courses or product A',
    );
    expect(whenInWords({ refunded: {} }, names)).toBe('anything is paid back');
    expect(whenInWords({ subscription: { what: 'failed', of: {} } }, names)).toBe(
      'a subscription of anything is not paid',
    );
    expect(whenInWords({ ending: { of: { level: 'keeper' }, before: 'P14D' } }, names)).toBe(
      'the level keeper ends for somebody in 14 days',
    );
  });
});
