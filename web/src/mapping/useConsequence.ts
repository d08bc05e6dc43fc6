import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { watchConsequence } from '../api/client';
import { useSettled } from '../ui/settled';
import { asDraft, type Draft } from './draft';

const SETTLED_MS = 120;

/** What publishing a draft would change. Computed anew with every change; what is outdated is given up. */
export function useConsequence(draft: Draft) {
  const queries = useQueryClient();
  const [wanted, settled] = useSettled(asDraft(draft), SETTLED_MS);
  const [progress, setProgress] = useState<{ done: number; of: number }>();
  const [stopped, setStopped] = useState(false);
  const key = ['consequence', wanted];
  const { data, error, isFetching, isPlaceholderData, refetch } = useQuery({
    queryKey: key,
    queryFn: async ({ signal }) => {
      setProgress(undefined);
      setStopped(false);
      return watchConsequence(wanted, signal, (done, of) => setProgress({ done, of }));
    },
    placeholderData: (previous) => previous,
    staleTime: 5_000,
    retry: false,
  });
  const counting = !settled || isFetching;
  return {
    /** Perhaps still of the draft before; then it is being counted. */
    data: data ?? undefined,
    error,
    counting,
    /** The figures are of this very draft. */
    current: !counting && !isPlaceholderData && !stopped && data !== undefined,
    progress: isFetching ? progress : undefined,
    stopped: stopped && !isFetching,
    stop: () => {
      setStopped(true);
      void queries.cancelQueries({ queryKey: key });
    },
    again: () => void refetch(),
  };
}

export type Watched = ReturnType<typeof useConsequence>;
