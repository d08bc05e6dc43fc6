import * as z from 'zod';
import { lenient, PAGE, present, WORDS } from '../ui/searchShape';

export const PEOPLE_SEARCH = z
  .object({ q: WORDS, sort: lenient(z.enum(['NEWEST', 'NAME', 'OPEN', 'ENDS'])), page: PAGE })
  .transform(present);

export type PeopleSearch = z.infer<typeof PEOPLE_SEARCH>;

export const PERSON_SEARCH = z.object({ target: lenient(z.string()) }).transform(present);
