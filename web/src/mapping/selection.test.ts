import { describe, expect, it } from 'vitest';
import { at, held, includes, moved, pasted, placed } from './selection';

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

  it('pastes a range from its first cell on, over and over where it fits, and never beyond the grid', () => {
    const copied = [['a', 'b']];
    const from = (row: number, column: number, height: number, width: number) => ({
      ...at(row, column),
      anchorRow: row + height - 1,
      anchorColumn: column + width - 1,
    });
    const words = (cells: { row: number; column: number; value: string }[]) =>
      cells.map(({ row, column, value }) => `${row}${column}${value}`).join(' ');
    expect(words(pasted(at(1, 1), copied, 9, 9))).toBe('11a 12b');
    expect(words(pasted(from(0, 0, 2, 4), copied, 9, 9))).toBe('00a 01b 02a 03b 10a 11b 12a 13b');
    expect(words(pasted(from(0, 0, 1, 3), copied, 9, 9))).toBe('00a 01b');
    expect(words(pasted(at(8, 8), copied, 9, 9))).toBe('88a');
    expect(words(pasted(from(0, 0, 2, 1), [['x']], 9, 9))).toBe('00x 10x');
    expect(pasted(at(0, 0), [], 9, 9)).toEqual([]);
  });
});

describe('a selection stays at its things', () => {
  const rows = ['a', 'b', 'c'];
  const columns = ['x', 'y', 'z'];
  const kept = held(at(1, 2), rows, columns);

  it('when others come before them or change places', () => {
    expect(placed(kept, ['n', 'a', 'b', 'c'], ['z', 'x', 'y'])).toEqual(at(2, 0));
  });

  it('and inside of what is left when they go', () => {
    expect(placed(kept, ['a'], ['x', 'y'])).toEqual(at(0, 1));
    expect(placed(kept, [], [])).toEqual(at(0, 0));
  });
});
