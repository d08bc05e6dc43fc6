export interface Column<Sort extends string> {
  title: string;
  sort?: Sort;
  number?: true;
  /** Otherwise it is the highest or latest that comes first. */
  upwards?: true;
}

interface Props<Sort extends string> {
  columns: Column<Sort>[];
  sort: Sort | undefined;
  onSort: (sort: Sort) => void;
}

/** The head of a table that the server sorts. */
export function SortedHead<Sort extends string>({ columns, sort, onSort }: Props<Sort>) {
  return (
    <thead>
      <tr>
        {columns.map((column) => {
          const here = column.sort !== undefined && column.sort === sort;
          return (
            <th
              key={column.title}
              scope="col"
              className={column.number === true ? 'number' : undefined}
              aria-sort={here ? (column.upwards === true ? 'ascending' : 'descending') : undefined}
            >
              {column.sort === undefined ? (
                column.title
              ) : (
                <button onClick={() => column.sort !== undefined && onSort(column.sort)}>
                  {column.title}
                  <span aria-hidden="true">{here ? (column.upwards === true ? ' ↑' : ' ↓') : ''}</span>
                </button>
              )}
            </th>
          );
        })}
      </tr>
    </thead>
  );
}
