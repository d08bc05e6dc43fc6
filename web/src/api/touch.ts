import { useQueryClient } from '@tanstack/react-query';
import { useCallback } from 'react';
import type { paths } from './schema';

type Root<Path> = Path extends `/api/${infer Name}/${string}` ? `/api/${Name}` : Path;
/** The first part of an address: what all addresses of one sort of thing begin with. */
type Resource = Root<Extract<keyof paths, `/api/${string}`>>;

/** What tells of who has what, and of what was done about it. */
const ACCESS: Resource[] = [
  '/api/people',
  '/api/followups',
  '/api/holders',
  '/api/orders',
  '/api/quotes',
  '/api/charges',
  '/api/held',
  '/api/policies',
  '/api/segments',
  '/api/desk',
  '/api/systems',
  '/api/findings',
  '/api/today',
  '/api/ruler',
  '/api/journal',
  '/api/untaken',
];

/** Which answers of the server an act makes out of date. */
const TOUCHES = {
  access: ACCESS,
  mapping: [...ACCESS, '/api/mapping', '/api/rehearsals'],
  systems: [...ACCESS, '/api/mapping'],
  findings: ['/api/findings', '/api/today', '/api/journal'],
  imports: [...ACCESS, '/api/imports'],
  feeds: ['/api/feeds', '/api/journal'],
  segments: ['/api/segments', '/api/journal'],
  letters: ['/api/letters', '/api/journal'],
  rehearsals: ['/api/rehearsals', '/api/today', '/api/journal'],
  notes: ['/api/people', '/api/journal'],
  school: ['/api/school', '/api/session', '/api/journal'],
  team: ['/api/team', '/api/session', '/api/journal'],
} satisfies Record<string, Resource[]>;

export type Touched = keyof typeof TOUCHES;

/** Whether an answer, by the key under which it is kept, is one of those that an act touches. */
export function isTouched(key: readonly unknown[], touched: Touched): boolean {
  const path = key[1];
  return (
    typeof path === 'string' &&
    TOUCHES[touched].some((resource) => path === resource || path.startsWith(`${resource}/`))
  );
}

/** Has what an act touched read anew, and nothing else. */
export function useTouch(): (touched: Touched) => Promise<void> {
  const queries = useQueryClient();
  return useCallback(
    (touched) => queries.invalidateQueries({ predicate: ({ queryKey }) => isTouched(queryKey, touched) }),
    [queries],
  );
}
