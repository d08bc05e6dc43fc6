import { useTouch } from '../api/touch';
import { useEffect, useState } from 'react';
import { api, type Schemas } from '../api/client';

export type Sheet = Schemas['ActSheet'];

const SETTLED_MS = 200;

/** What an act would change, and doing it. An act has one key however often it is sent, so that it is done once. */
export function useAct(sheet: Sheet | undefined, onDone: (done: Schemas['Done']) => void) {
  const touch = useTouch();
  const [key, setKey] = useState(() => crypto.randomUUID());
  const text = sheet === undefined ? undefined : JSON.stringify(sheet);
  const [doneText, setDoneText] = useState<string>();
  const settledText = useSettled(text);
  const settled = settledText === undefined ? undefined : (JSON.parse(settledText) as Sheet);
  const consequence = api.useQuery(
    'post',
    '/api/desk/consequence',
    { body: settled ?? NOTHING },
    { enabled: settled !== undefined, placeholderData: (previous) => previous, retry: false, gcTime: 0 },
  );
  const done = api.useMutation('post', '/api/desk/acts', {
    onSuccess: (answer) => {
      setKey(crypto.randomUUID());
      setDoneText(text);
      onDone(answer);
    },
    onSettled: () => touch('access'),
  });
  return {
    consequence: settled === undefined ? undefined : consequence.data,
    fault: consequence.error ?? done.error,
    /** Whether what is shown is about what is filled in. */
    current: settledText === text && !consequence.isFetching && consequence.error === null,
    /** Also once it is done, as long as the same is filled in: leaving the form may take a moment. */
    busy: done.isPending || (doneText !== undefined && doneText === text),
    act: () => {
      if (sheet !== undefined && !done.isPending && doneText !== text)
        done.mutate({ body: { key, act: sheet } });
    },
  };
}

const NOTHING: Sheet = { kind: 'PART' };

/** The text once typing has paused. */
function useSettled(text: string | undefined): string | undefined {
  const [settled, setSettled] = useState(text);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(text), SETTLED_MS);
    return () => clearTimeout(timer);
  }, [text]);
  return settled;
}
