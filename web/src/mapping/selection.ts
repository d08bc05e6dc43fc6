/** A rectangle of cells; the focus is where the keys go, the anchor where the range began. */
export interface Selection {
  row: number;
  column: number;
  anchorRow: number;
  anchorColumn: number;
}

export function at(row: number, column: number): Selection {
  return { row, column, anchorRow: row, anchorColumn: column };
}

/** Where a key moves the focus, with Shift leaving the anchor behind; nothing where it is no key for moving. */
export function moved(
  selection: Selection,
  key: string,
  extend: boolean,
  far: boolean,
  rows: number,
  columns: number,
): Selection | undefined {
  const step: Record<string, [number, number]> = {
    ArrowUp: [-1, 0],
    ArrowDown: [1, 0],
    ArrowLeft: [0, -1],
    ArrowRight: [0, 1],
    PageUp: [-10, 0],
    PageDown: [10, 0],
    Home: far ? [-rows, -columns] : [0, -columns],
    End: far ? [rows, columns] : [0, columns],
  };
  const by = step[key];
  if (by === undefined) return undefined;
  const row = Math.min(rows - 1, Math.max(0, selection.row + by[0]));
  const column = Math.min(columns - 1, Math.max(0, selection.column + by[1]));
  return extend ? { ...selection, row, column } : at(row, column);
}

export function includes(selection: Selection, row: number, column: number): boolean {
  const between = (value: number, one: number, other: number) =>
    value >= Math.min(one, other) && value <= Math.max(one, other);
  return (
    between(row, selection.row, selection.anchorRow) &&
    between(column, selection.column, selection.anchorColumn)
  );
}
