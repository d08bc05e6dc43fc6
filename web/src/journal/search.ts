import * as z from 'zod';
import { lenient, present, WORDS } from '../ui/searchShape';

export const SHOWN_KINDS = ['all', 'facts', 'troubles', 'operators'] as const;

export const JOURNAL_SEARCH = z
  .object({
    /** Of whom alone. */
    person: lenient(z.number()),
    q: WORDS,
    show: lenient(z.enum(SHOWN_KINDS)),
  })
  .transform(present);

export type JournalSearch = z.infer<typeof JOURNAL_SEARCH>;
