import { createContext, use } from 'react';
import type { Schemas } from '../api/client';

export const SessionContext = createContext<Schemas['Session'] | undefined>(undefined);

/** The session of the signed-in operator. */
export function useSession(): Schemas['Session'] {
  const session = use(SessionContext);
  if (session === undefined) {
    throw new Error('this is shown only once the session is known');
  }
  return session;
}
