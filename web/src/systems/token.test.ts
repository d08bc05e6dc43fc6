import { expect, it } from 'vitest';
import { bare, credential } from './token';

it.each([
  ['abc-123', 'abc-123'],
  ['  abc-123\n', 'abc-123'],
  ['Bearer abc-123', 'abc-123'],
  ['Authorization: Bearer abc-123', 'abc-123'],
  ['"abc-123"', 'abc-123'],
  ['“abc-123”', 'abc-123'],
  ['bearer "abc 123"', 'abc 123'],
  ['"Authorization: Bearer abc-123"', 'abc-123'],
  ['it"s', 'it"s'],
])('%j is pasted, %j is the token', (pasted, token) => {
  expect(bare(pasted)).toBe(token);
});

it('takes nothing off a password', () => {
  expect(credential('MAILBOX', ' "Bearer" ')).toBe(' "Bearer" ');
  expect(credential('SHOP', ' "abc" ')).toBe('abc');
});
