import { describe, expect, it } from 'vitest';
import {
  inShort,
  leaves,
  placeInWords,
  plainly,
  withCondition,
  pickedPath,
  tableInText,
  tableOf,
  usedBy,
  type MatchingDocument,
} from './matching';

const REPORT = {
  event: 'done',
  buyer: { 'e-mail': 'petra@post.example' },
  items: [
    { code: 'QUEEN', cents: 18000 },
    { code: 'VEIL', cents: 5000 },
  ],
};

const DOCUMENT: MatchingDocument = {
  yoru: 'matching/1',
  rules: [],
  fields: {
    person: { path: '$.buyer["e-mail"]' },
    lines: { path: '$.items[*]' },
    'line.amount': { path: '$.cents', steps: [{ do: 'minor-units' }] },
  },
};

describe('picking from a report', () => {
  it('makes a condition of a value that was clicked, one for each place', () => {
    const once = withCondition(
      [{ facts: ['order.paid'] }, { facts: ['order.placed'] }],
      1,
      '$.event',
      plainly('"sold"'),
    );
    expect(once).toEqual([
      { facts: ['order.paid'] },
      { facts: ['order.placed'], when: [{ path: '$.event', equals: 'sold' }] },
    ]);
    expect(withCondition(once, 1, '$.event', plainly('7'))[1]?.when).toEqual([
      { path: '$.event', equals: '7' },
    ]);
    expect(placeInWords('$.buyer["e-mail"]')).toBe('buyer["e-mail"]');
    expect(placeInWords('$["e-mail"]')).toBe('["e-mail"]');
  });

  it('gives every value the path that leads to it', () => {
    const values = leaves(REPORT).filter((leaf) => leaf.bracket === undefined);
    expect(values.map((leaf) => [leaf.path, leaf.value])).toEqual([
      ['$.event', '"done"'],
      ['$.buyer["e-mail"]', '"petra@post.example"'],
      ['$.items[0].code', '"QUEEN"'],
      ['$.items[0].cents', '18000'],
      ['$.items[1].code', '"VEIL"'],
      ['$.items[1].cents', '5000'],
    ]);
  });

  it('means the whole list for lines, and the element for a field of a line', () => {
    expect(pickedPath('lines', '$.items[1].code', undefined)).toBe('$.items[*]');
    expect(pickedPath('line.product', '$.items[1].code', '$.items[*]')).toBe('$.code');
    expect(pickedPath('line.product', '$.event', '$.items[*]')).toBe('$.event');
    expect(pickedPath('order', '$.items[1].code', '$.items[*]')).toBe('$.items[1].code');
  });

  it('knows which field a value is used by', () => {
    expect(usedBy('$.items[1].cents', DOCUMENT)).toEqual(['line.amount']);
    expect(usedBy('$.buyer["e-mail"]', DOCUMENT)).toEqual(['person']);
    expect(usedBy('$.event', DOCUMENT)).toEqual([]);
  });

  it('says in short where a field comes from', () => {
    expect(inShort(DOCUMENT.fields['line.amount'])).toBe('$.cents · minor units');
    expect(inShort({ constant: 'EUR' })).toBe('always “EUR”');
    expect(inShort(undefined)).toBe('nothing matched');
  });

  it('writes a table as lines and reads it back', () => {
    const table = { 'queen-1': 'QUEEN', veil: 'KIT' };
    expect(tableOf(tableInText(table))).toEqual(table);
    expect(tableOf('queen-1=QUEEN\nhalf a li')).toEqual({ 'queen-1': 'QUEEN' });
  });
});
