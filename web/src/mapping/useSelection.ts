import { useNavigate, useSearch } from '@tanstack/react-router';
import { useEffect, useMemo, useState } from 'react';
import { at, held, placed, type Selection } from './selection';
import type { SourceRow, TargetColumn } from './shown';

/** The selection: it begins where the address says, and stays at its things when rows and columns come, go or change places. */
export function useSelection(
  sources: SourceRow[],
  targets: TargetColumn[],
): [Selection, (selection: Selection) => void] {
  const search = useSearch({ from: '/mapping' });
  const navigate = useNavigate({ from: '/mapping' });
  const down = useMemo(() => sources.map(({ source }) => source), [sources]);
  const across = useMemo(() => targets.map(({ target }) => target), [targets]);
  const [kept, keep] = useState(() =>
    held(
      at(
        Math.max(0, down.indexOf(`product/${search.product ?? ''}`)),
        Math.max(0, across.indexOf(`course/${search.course ?? ''}`)),
      ),
      down,
      across,
    ),
  );
  useEffect(() => {
    if (search.product !== undefined || search.course !== undefined) {
      void navigate({ search: (previous) => ({ at: previous.at }), replace: true });
    }
  }, [search, navigate]);
  const selection = useMemo(() => placed(kept, down, across), [kept, down, across]);
  return [selection, (next) => keep(held(next, down, across))];
}
