import { expect, it } from 'vitest';
import { isTouched } from './touch';

it('has what an act touched read anew, and leaves the rest', () => {
  expect(isTouched(['get', '/api/people/{id}', {}], 'access')).toBe(true);
  expect(isTouched(['get', '/api/people'], 'notes')).toBe(true);
  expect(isTouched(['get', '/api/mapping/things'], 'access')).toBe(false);
  expect(isTouched(['get', '/api/mapping'], 'mapping')).toBe(true);
  expect(isTouched(['get', '/api/session'], 'access')).toBe(false);
  expect(isTouched(['get', '/api/peopled'], 'access')).toBe(false);
  expect(isTouched([], 'access')).toBe(false);
});
