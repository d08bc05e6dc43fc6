import { useEffect, useReducer } from 'react';
import { useSession } from '../session/session';
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
  if (isEmpty(draft)) localStorage.removeItem(place);
  else
    localStorage.setItem(
      place,
      JSON.stringify({
        base: draft.base,
        changes: draft.changes,
        things: draft.things,
        document: draft.document,
      }),
    );
}

function kept(place: string): Draft {
  try {
    const found = JSON.parse(localStorage.getItem(place) ?? 'null') as Partial<Draft> | null;
    return found === null ? NO_DRAFT : { ...NO_DRAFT, ...found };
  } catch {
    return NO_DRAFT;
  }
}
