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

/** A selection with the things it is of. */
export interface Held {
  selection: Selection;
  /** What stands in each row and column of it; none where there is nothing. */
  things: { [Place in keyof Selection]: string | undefined };
}

export function held(selection: Selection, rows: readonly string[], columns: readonly string[]): Held {
  const { row, column, anchorRow, anchorColumn } = selection;
  return {
    selection,
    things: {
      row: rows[row],
      column: columns[column],
      anchorRow: rows[anchorRow],
      anchorColumn: columns[anchorColumn],
    },
  };
}

/** Where the selected things stand now; what is gone leaves the selection where it was, inside of what there is. */
export function placed(
  { selection, things }: Held,
  rows: readonly string[],
  columns: readonly string[],
): Selection {
  const place = (thing: string | undefined, before: number, among: readonly string[]) => {
    const found = thing === undefined ? -1 : among.indexOf(thing);
    return found >= 0 ? found : Math.max(0, Math.min(before, among.length - 1));
  };
  return {
    row: place(things.row, selection.row, rows),
    column: place(things.column, selection.column, columns),
    anchorRow: place(things.anchorRow, selection.anchorRow, rows),
    anchorColumn: place(things.anchorColumn, selection.anchorColumn, columns),
  };
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

/** The rows and columns of a selection. */
export function block({ row, column, anchorRow, anchorColumn }: Selection): {
  rows: number[];
  columns: number[];
} {
  return { rows: between(row, anchorRow), columns: between(column, anchorColumn) };
}

/**
 * Where copied values go: from the selection's first cell on; over and over where the selection is a multiple of what was
 * copied, and nowhere beyond the grid.
 */
export function pasted<T>(
  selection: Selection,
  copied: T[][],
  rows: number,
  columns: number,
): { row: number; column: number; value: T }[] {
  const to = block(selection);
  const [height, width] = [copied.length, copied[0]?.length ?? 0];
  if (height === 0 || width === 0) return [];
  const times = (size: number, length: number) => (length % size === 0 ? length : size);
  const [down, across] = [times(height, to.rows.length), times(width, to.columns.length)];
  const cells: { row: number; column: number; value: T }[] = [];
  for (let y = 0; y < down; y++) {
    for (let x = 0; x < across; x++) {
      const [row, column] = [(to.rows[0] ?? 0) + y, (to.columns[0] ?? 0) + x];
      const value = copied[y % height]?.[x % width];
      if (row < rows && column < columns && value !== undefined) cells.push({ row, column, value });
    }
  }
  return cells;
}

function between(one: number, other: number): number[] {
  const first = Math.min(one, other);
  return Array.from({ length: Math.abs(one - other) + 1 }, (_, at) => first + at);
}
