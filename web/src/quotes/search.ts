import * as z from 'zod';
import { lenient, PAGE, present } from '../ui/searchShape';

export const QUOTES_SEARCH = z
  .object({ sort: lenient(z.enum(['WAITING', 'NEWEST', 'UNTIL', 'TOTAL'])), page: PAGE })
  .transform(present);

export type QuotesSearch = z.infer<typeof QUOTES_SEARCH>;
