import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useEffectEvent, useReducer, useRef, useState } from 'react';
import { api, type Schemas } from '../api/client';
import { useSession } from '../session/session';
import { isEmpty, realChanges, realThings, reduce, size, type Act, type Draft } from './draft';
import {
  isSameDraft,
  keepInBrowser,
  meeting,
  readDraft,
  readInBrowser,
  written,
  type InBrowser,
} from './draftInBrowser';
import { nameOfPlace, type Grid } from './shown';

const PAUSE = 600;
const PAUSE_AFTER_TROUBLE = 5_000;
const PLACES_NAMED = 6;
const LONGEST_NAME = 500;
/** Things are called by their ids until their names are known. */
const NO_GRID = { sources: [], targets: [] };

/** This operator's draft, and what others have changed and not published. */
export interface OwnDraft {
  draft: Draft;
  change: (act: Act) => void;
  others: Schemas['OthersDraft'][];
  /** Another one of the same operator from another machine, changed as well. */
  elsewhere: Draft | undefined;
  /** Which of the two it is to be. */
  decide: (which: 'here' | 'elsewhere') => void;
}

type Step = { act: 'become'; draft: Draft } | Act;

function step(draft: Draft, act: Step): Draft {
  return act.act === 'become' ? act.draft : reduce(draft, act);
}

/**
 * The draft of this operator, on any machine: kept by the server, and in this browser as well, so that it outlives a lost
 * session, a reload and a lost server.
 */
export function useDraft(grid: Pick<Grid, 'sources' | 'targets'> = NO_GRID): OwnDraft {
  const place = usePlace();
  const queries = useQueryClient();
  const [elsewhere, setElsewhere] = useState<Draft>();
  const [first] = useState(() => readInBrowser(place));
  const [draft, dispatch] = useReducer(step, first.draft);
  const known = useRef<Omit<InBrowser, 'draft'>>(first);
  const kept = api.useQuery('get', '/api/mapping/draft', undefined, { refetchInterval: 10_000 });
  const key = api.queryOptions('get', '/api/mapping/draft').queryKey;
  const { mutate, isPending, isError } = api.useMutation('put', '/api/mapping/draft', {
    onMutate: () => queries.cancelQueries({ queryKey: key }),
    onError: () => queries.invalidateQueries({ queryKey: key }),
  });
  const there = kept.data;

  const note = (revision: number, ahead: boolean, now: Draft) => {
    known.current = { revision, ahead };
    keepInBrowser(place, { draft: now, revision, ahead });
  };
  const become = (revision: number, next: Draft) => {
    if (!isSameDraft(draft, next)) dispatch({ act: 'become', draft: next });
    note(revision, false, next);
    setElsewhere(undefined);
  };
  const save = (revision: number) => {
    const sent = isEmpty(draft) ? {} : { draft: written(draft) as unknown as Record<string, never> };
    const places = [...realChanges(draft), ...realThings(draft)].map(([one]) => one).slice(0, PLACES_NAMED);
    mutate(
      {
        body: {
          revision,
          ...sent,
          places: places.map((one) => nameOfPlace(one, draft, grid).slice(0, LONGEST_NAME)),
          many: size(draft),
        },
      },
      {
        onSuccess: ({ revision: next }) => {
          known.current = { revision: next, ahead: true }; // until both are seen to be the same
          queries.setQueryData(key, (before: Schemas['Drafts'] | undefined) => ({
            others: before?.others ?? [],
            revision: next,
            ...sent,
          }));
        },
      },
    );
  };

  // what was changed here is first of all kept here
  const last = useRef(draft);
  useEffect(() => {
    if (last.current === draft) return;
    last.current = draft;
    if (known.current.ahead) keepInBrowser(place, { draft, ...known.current });
  }, [draft, place]);

  // and then both sides meet
  const meet = useEffectEvent((there: Schemas['Drafts']) => {
    const here = { draft, revision: known.current.revision, ahead: known.current.ahead };
    const other = { revision: there.revision, draft: readDraft(there.draft) };
    const next = meeting(here, other);
    setElsewhere(next === 'ask' ? other.draft : undefined);
    if (next === 'take') become(other.revision, other.draft);
    if (next !== 'save') return undefined;
    const timer = setTimeout(() => save(other.revision), isError ? PAUSE_AFTER_TROUBLE : PAUSE);
    return () => clearTimeout(timer);
  });
  useEffect(
    () => (there === undefined || isPending ? undefined : meet(there)),
    [draft, there, isPending, isError],
  );

  return {
    draft,
    change: (act) => {
      known.current = { ...known.current, ahead: true };
      dispatch(act);
    },
    others: there?.others ?? [],
    elsewhere,
    decide: (which) => {
      if (there === undefined) return;
      if (which === 'elsewhere') become(there.revision, readDraft(there.draft));
      else {
        note(there.revision, true, draft);
        setElsewhere(undefined);
        save(there.revision);
      }
    },
  };
}

/** The draft as this browser has it, for looking at. */
export function useDraftHere(): Draft {
  const place = usePlace();
  return readInBrowser(place).draft;
}

/** Puts a draft where the grid finds it. */
export function useKeep(): (draft: Draft) => void {
  const place = usePlace();
  return (draft) => keepInBrowser(place, { ...readInBrowser(place), draft, ahead: true });
}

function usePlace(): string {
  const { email } = useSession();
  return `yoru.draft.${email ?? ''}`;
}
