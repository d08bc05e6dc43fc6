import { useNavigate } from '@tanstack/react-router';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, type Schemas } from '../api/client';
import { fileBody } from '../ui/files';
import { isEmpty, NO_DRAFT, published, reduce } from './draft';
import { lookup, type Things } from './things';
import { useKeep } from './useDraft';

const NOTHING = {
  title: 'Nothing differs',
  detail: 'It says what is in force already. No draft was made.',
  status: 0,
};

/** Makes a draft of a rulebook, or of what takes a publish back, and shows it on the grid. */
export function useLoad() {
  const keep = useKeep();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [isPending, setPending] = useState(false);
  const [error, setError] = useState<unknown>(null);
  const read = api.useMutation('post', '/api/mapping/rulebook');

  const load = async (wanted: () => Promise<Schemas['WholeDraft']>) => {
    setPending(true);
    setError(null);
    try {
      const draft = await wanted();
      const grid = await queries.query(api.queryOptions('get', '/api/mapping'));
      const things = (await queries.query(api.queryOptions('get', '/api/mapping/things'))) as unknown;
      const whole = reduce(NO_DRAFT, {
        act: 'load',
        draft,
        published: published(grid.cells),
        things: lookup(things as Things),
        version: grid.version,
      });
      if (isEmpty(whole)) {
        setError(NOTHING);
        return;
      }
      keep(whole);
      await navigate({ to: '/mapping', search: {} });
    } catch (fault) {
      setError(fault);
    } finally {
      setPending(false);
    }
  };
  return {
    isPending,
    error,
    takeBack: (number: number) =>
      void load(() =>
        queries.query(
          api.queryOptions('get', '/api/mapping/history/{number}/back', { params: { path: { number } } }),
        ),
      ),
    readFile: (file: File) => void load(() => read.mutateAsync(fileBody(file, 'application/yaml'))),
  };
}
