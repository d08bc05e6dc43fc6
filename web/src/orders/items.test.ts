import { describe, expect, it } from 'vitest';
import { amount, amountFault, faults, itemSheet, newItem, optionOf, total, type Item } from './items';

const product = { id: 'QUEEN', title: 'Queen Rearing', categories: [], options: [], thing: false, opens: 1 };

function item(quantity: string, price: string, off = ''): Item {
  return { at: 1, product, option: '', quantity, price, off };
}

describe('lines of an order by hand', () => {
  it('reads amounts with a point or a comma, and never cents for the currency', () => {
    expect(amount('10')).toBe(10);
    expect(amount(' 10,50 ')).toBe(10.5);
    expect(amount('')).toBe(0);
    expect(amount('ten')).toBeNaN();
    expect(amount('1.2.3')).toBeNaN();
    expect(amount('-3')).toBeNaN();
  });

  it('takes an option at its price, unless somebody typed another one', () => {
    const mentor = { ...product, price: 260, options: [{ id: 'VISITS', title: 'with visits', price: 420 }] };
    const line = newItem(mentor, [], 'EUR');
    expect(line.price).toBe('260.00');
    expect(optionOf(line, 'VISITS', 'EUR')).toEqual({ option: 'VISITS', price: '420.00' });
    expect(optionOf({ ...line, price: '200' }, 'VISITS', 'EUR')).toEqual({ option: 'VISITS' });
    expect(newItem({ ...product, price: 1500 }, [line], 'JPY').price).toBe('1500');
  });

  it.each([
    ['1.180,50', 1180.5],
    ['1,180.50', 1180.5],
    ['1 180,50', 1180.5],
    ['1’180.50', 1180.5],
    ['12.345.678,9', 12345678.9],
    ['1,234,567', 1234567],
    ['1180', 1180],
    ['0.105', 0.105],
    ['12,34,56', NaN],
    ['1.18.0', NaN],
    ['1,180,50', NaN],
    ['1.1800,5', NaN],
    ['12 34', NaN],
    ['abc', NaN],
    ['.', NaN],
  ])('reads %s as people write it', (text, is) => {
    expect(amount(text)).toBe(is);
  });

  it('says of what is no amount why, and asks where it can be read in two ways', () => {
    expect(amountFault('1.180')).toBe('“1.180” can be read in two ways: write 1180 or 1.18');
    expect(amountFault('abc')).toBe('“abc” is no amount: write it like 1180.50');
    expect(amountFault('')).toBeUndefined();
    expect(faults([item('1', 'abc', '2'), item('1', '3', 'x')])).toHaveLength(2);
  });

  it('adds up without losing a cent to binary fractions', () => {
    expect(total([item('3', '0.10'), item('1', '0.20')], 'EUR')).toBe(0.5);
    expect(total([item('2', '90', '30'), item('1', 'no')], 'EUR')).toBe(150);
  });

  it('sends what is no amount as one that is refused, not as nothing', () => {
    expect(itemSheet(item('1', 'ten'), '').price).toBe(-1);
    expect(itemSheet(item('1.5', '3'), '').quantity).toBe(0);
    expect(itemSheet(item('1', '3'), ' a@b.example ')).toMatchObject({ giftTo: 'a@b.example', off: 0 });
  });
});
