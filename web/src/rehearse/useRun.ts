import { useQuery } from '@tanstack/react-query';
import { client, read, type Schemas } from '../api/client';
import { asDraft, type Draft } from '../mapping/draft';
import { useSettled } from '../ui/settled';
import type { Story } from './model';

const SETTLED_MS = 350;
const AGAIN_MS = 5_000;

/** What comes of a story under a draft, run again whenever either changes. */
export function useRun(draft: Draft, story: Story) {
  const [wanted, settled] = useSettled({ draft: asDraft(draft), story }, SETTLED_MS);
  const run = useQuery({
    queryKey: ['rehearsal', wanted],
    queryFn: ({ signal }): Promise<Schemas['RehearsalReport']> =>
      read(
        client.POST('/api/mapping/rehearsal', {
          body: { draft: wanted.draft, story: wanted.story as never },
          signal,
        }),
      ),
    placeholderData: (previous) => previous,
    staleTime: 10_000,
    retry: false,
  });
  return { ...run, running: !settled || run.isFetching };
}

/** How all stories that are kept come out under a draft. */
export function useSet(draft: Draft) {
  const [wanted] = useSettled(asDraft(draft), SETTLED_MS);
  return useQuery({
    queryKey: ['rehearsals', wanted],
    queryFn: async ({ signal }) => {
      const { rehearsals } = await read(client.POST('/api/mapping/rehearsals', { body: wanted, signal }));
      return rehearsals;
    },
    placeholderData: (previous) => previous,
    staleTime: 10_000,
    retry: false,
    // publishing waits for it: a server that was away is asked again
    refetchInterval: ({ state }) => (state.status === 'error' ? AGAIN_MS : false),
  });
}
