/// <reference types="vite/client" />
import { expect, it } from 'vitest';

const MOST_LINES = 700;
/** The only ones with a style sheet of their own, beside the theme. */
const DRAWN = ['../band/Ruler.css', '../mapping/Grid.css', '../people/TimeLine.css', '../theme.css'];

it('is hardly any CSS written by hand, and none beside what draws itself', () => {
  const sheets = import.meta.glob<string>('../**/*.css', { query: '?raw', import: 'default', eager: true });
  expect(Object.keys(sheets).toSorted()).toEqual(DRAWN);
  const lines = Object.values(sheets).reduce((sum, sheet) => sum + sheet.split('\n').length, 0);
  expect(lines).toBeGreaterThan(100); // they were read
  expect(lines).toBeLessThan(MOST_LINES);
});
