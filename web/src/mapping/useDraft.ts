import { useEffect, useReducer } from 'react';
import { useSession } from '../session/session';
import { NO_DRAFT, reduce, type Act, type Draft } from './draft';

/** The draft of this operator in this browser; it outlives a lost session, a reload and a lost server. */
export function useDraft(): [Draft, (act: Act) => void] {
  const { email } = useSession();
  const place = `yoru.draft.${email ?? ''}`;
  const [draft, dispatch] = useReducer(reduce, place, kept);
  useEffect(() => {
    if (Object.keys(draft.changes).length === 0) localStorage.removeItem(place);
    else localStorage.setItem(place, JSON.stringify({ base: draft.base, changes: draft.changes }));
  }, [draft, place]);
  return [draft, dispatch];
}

function kept(place: string): Draft {
  try {
    const found = JSON.parse(localStorage.getItem(place) ?? 'null') as Partial<Draft> | null;
    return found === null ? NO_DRAFT : { ...NO_DRAFT, ...found };
  } catch {
    return NO_DRAFT;
  }
}
