import { useEffect, useReducer } from 'react';
import * as z from 'zod';
import { useSession } from '../session/session';
import { forget, keep as keepIn, readKept } from '../ui/kept';
import { isEmpty, NO_DRAFT, reduce, type Act, type Draft } from './draft';

/** The draft of this operator in this browser; it outlives a lost session, a reload and a lost server. */
export function useDraft(): [Draft, (act: Act) => void] {
  const place = usePlace();
  const [draft, dispatch] = useReducer(reduce, place, kept);
  useEffect(() => keep(place, draft), [draft, place]);
  return [draft, dispatch];
}

/** Puts a draft where the grid finds it. */
export function useKeep(): (draft: Draft) => void {
  const place = usePlace();
  return (draft) => keep(place, draft);
}

function usePlace(): string {
  const { email } = useSession();
  return `yoru.draft.${email ?? ''}`;
}

function keep(place: string, draft: Draft) {
  if (isEmpty(draft)) forget(place);
  else {
    const { base, changes, things, document } = draft;
    keepIn(place, { base, changes, things, document });
  }
}

function kept(place: string): Draft {
  const found = readKept(place, KEPT);
  // terms and things are looked over by the server, as whatever is sent to it
  return found === undefined ? NO_DRAFT : { ...NO_DRAFT, ...(found as Partial<Draft>) };
}

const CHANGES = z.record(z.string(), z.object({ to: z.unknown(), was: z.unknown() }));

const KEPT = z.object({
  base: z.number(),
  changes: CHANGES,
  things: CHANGES,
  document: z.string().optional(),
});
