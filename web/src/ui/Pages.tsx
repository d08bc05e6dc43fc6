interface Props {
  total: number;
  pageSize: number;
  page: number;
  onPage: (page: number) => void;
}

/** To and fro in a list that the server gives out page by page. */
export function Pages({ total, pageSize, page, onPage }: Props) {
  const last = Math.max(0, Math.ceil(total / pageSize) - 1);
  if (last === 0) return null;
  return (
    <nav className="pages" aria-label="Pages">
      <button className="btn btn-sm" disabled={page === 0} onClick={() => onPage(page - 1)}>
        Before
      </button>
      <span>
        {page * pageSize + 1} to {Math.min(total, (page + 1) * pageSize)} of {total}
      </span>
      <button className="btn btn-sm" disabled={page >= last} onClick={() => onPage(page + 1)}>
        Further
      </button>
    </nav>
  );
}
