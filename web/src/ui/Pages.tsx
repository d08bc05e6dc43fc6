import { Button } from './Button';

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
    <nav className="mt-3 flex items-center gap-3 text-soft" aria-label="Pages">
      <Button small disabled={page === 0} onClick={() => onPage(page - 1)}>
        Before
      </Button>
      <span>
        {page * pageSize + 1} to {Math.min(total, (page + 1) * pageSize)} of {total}
      </span>
      <Button small disabled={page >= last} onClick={() => onPage(page + 1)}>
        Further
      </Button>
    </nav>
  );
}
