import {
  columnVisibilityFeature,
  tableFeatures,
  useTable,
  type ColumnDef,
  type RowData,
} from '@tanstack/react-table';
import { useMemo, useState, type ReactNode } from 'react';
import * as z from 'zod';
import { keep, readKept } from './kept';
import { TickMenu } from './Menu';
import { Sheet, Table } from './Table';

export interface Column<Row extends RowData, Sort extends string> {
  id: string;
  title: string;
  show: (row: Row) => ReactNode;
  /** By what the server sorts when its head is chosen. */
  sort?: Sort;
  /** Otherwise it is the highest or latest that comes first. */
  upwards?: true;
  number?: true;
  /** Without it a row says nothing: it cannot be left out. */
  always?: true;
}

interface Props<Row extends RowData, Sort extends string> {
  /** Under which name this browser keeps which columns are left out. */
  name: string;
  label: string;
  columns: Column<Row, Sort>[];
  rows: Row[];
  idOf: (row: Row) => string;
  sort: Sort | undefined;
  onSort: (sort: Sort) => void;
  /** What stands beside the choice of columns. */
  children?: ReactNode;
}

const features = tableFeatures({ columnVisibilityFeature });
const LEFT_OUT = z.array(z.string());

/** A page of many rows that the server sorts; which columns it has is up to whoever reads. */
export function DataTable<Row extends RowData, Sort extends string>({
  name,
  label,
  columns,
  rows,
  idOf,
  sort,
  onSort,
  children,
}: Props<Row, Sort>) {
  const key = `yoru.columns.${name}`;
  const [leftOut, setLeftOut] = useState(() => readKept(key, LEFT_OUT) ?? []);
  const byId = useMemo(() => new Map(columns.map((column) => [column.id, column])), [columns]);
  const defs = useMemo(
    () =>
      columns.map((column): ColumnDef<typeof features, Row> => ({
        id: column.id,
        header: column.title,
        enableHiding: column.always !== true,
      })),
    [columns],
  );
  const table = useTable({
    features,
    columns: defs,
    data: rows,
    getRowId: idOf,
    state: { columnVisibility: Object.fromEntries(leftOut.map((id) => [id, false])) },
  });
  const can = columns.filter((column) => column.always !== true);
  return (
    <>
      <div className="mb-2 flex flex-wrap items-center justify-between gap-x-5 gap-y-2">
        <div>{children}</div>
        <TickMenu
          name="Columns that are shown"
          options={can.map(({ id, title }) => ({ id, words: title }))}
          ticked={can.map(({ id }) => id).filter((id) => !leftOut.includes(id))}
          onChange={(ticked) => {
            const next = can.map(({ id }) => id).filter((id) => !ticked.includes(id));
            setLeftOut(next);
            keep(key, next);
          }}
        >
          Columns
        </TickMenu>
      </div>
      <Sheet>
        <Table aria-label={label}>
          <thead>
            {table.getHeaderGroups().map((group) => (
              <tr key={group.id}>
                {group.headers.map((header) => {
                  const column = byId.get(header.column.id);
                  return (
                    column !== undefined && (
                      <Head key={header.id} column={column} sort={sort} onSort={onSort} />
                    )
                  );
                })}
              </tr>
            ))}
          </thead>
          <tbody>
            {table.getRowModel().rows.map((row) => (
              <tr key={row.id}>
                {row.getVisibleCells().map((cell) => {
                  const column = byId.get(cell.column.id);
                  return (
                    <td key={cell.id} className={column?.number ? 'text-right whitespace-nowrap' : undefined}>
                      {/* not as a component of its own: it would be another one at each look, and what is clicked would be gone */}
                      {column?.show(row.original)}
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </Table>
      </Sheet>
    </>
  );
}

interface HeadProps<Row extends RowData, Sort extends string> {
  column: Column<Row, Sort>;
  sort: Sort | undefined;
  onSort: (sort: Sort) => void;
}

function Head<Row extends RowData, Sort extends string>({ column, sort, onSort }: HeadProps<Row, Sort>) {
  const by = column.sort;
  const here = by !== undefined && by === sort;
  const up = column.upwards === true;
  return (
    <th
      scope="col"
      className={`whitespace-nowrap ${column.number ? 'text-right' : ''}`}
      aria-sort={here ? (up ? 'ascending' : 'descending') : undefined}
    >
      {by === undefined ? (
        column.title
      ) : (
        <button className="cursor-pointer font-semibold" onClick={() => onSort(by)}>
          {column.title}
          <span aria-hidden="true">{here ? (up ? ' ↑' : ' ↓') : ''}</span>
        </button>
      )}
    </th>
  );
}
