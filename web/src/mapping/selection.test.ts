import { describe, expect, it } from 'vitest';
import { at, includes, moved } from './selection';

const ROWS = 12;
const COLUMNS = 8;

function press(keys: string[], extend = false, start = at(0, 0)) {
  return keys.reduce(
    (selection, key) => moved(selection, key, extend, false, ROWS, COLUMNS) ?? selection,
    start,
  );
}

describe('the selection', () => {
  it('moves with the arrows and stops at the edges', () => {
    expect(press(['ArrowDown', 'ArrowDown', 'ArrowRight', 'ArrowUp'])).toEqual(at(1, 1));
    expect(press(['ArrowUp', 'ArrowLeft'])).toEqual(at(0, 0));
    expect(press(['PageDown', 'PageDown', 'End', 'ArrowRight'])).toEqual(at(ROWS - 1, COLUMNS - 1));
    expect(moved(at(5, 5), 'Home', false, true, ROWS, COLUMNS)).toEqual(at(0, 0));
    expect(moved(at(5, 5), 'x', false, false, ROWS, COLUMNS)).toBeUndefined();
  });

  it('grows from its anchor while Shift is held, in every direction', () => {
    const grown = press(['ArrowLeft', 'ArrowLeft', 'ArrowUp'], true, at(4, 4));
    const inside = Array.from(
      { length: ROWS * COLUMNS },
      (_, n) => [Math.floor(n / COLUMNS), n % COLUMNS] as const,
    ).filter(([row, column]) => includes(grown, row, column));
    expect(inside).toEqual([
      [3, 2],
      [3, 3],
      [3, 4],
      [4, 2],
      [4, 3],
      [4, 4],
    ]);
    expect(press(['ArrowDown'], false, grown)).toEqual(at(4, 2));
  });
});
