import * as z from 'zod';
import { lenient, present } from '../ui/searchShape';

export const RUN_STATES = ['HELD_UP', 'GOING', 'WAITING', 'DONE', 'STOPPED'] as const;

export const FOLLOWUPS_SEARCH = z
  .object({
    /** Which follow-up, by its id; none = the list of them. */
    which: lenient(z.string()),
    /** What of all: the follow-ups, the letters that Yoru writes by itself, or what was done lately. */
    view: lenient(z.enum(['lately', 'letters'])),
    state: lenient(z.enum(RUN_STATES)),
    page: lenient(z.number().int().min(1)),
    /** For whom it is tried, by their number. */
    person: lenient(z.number().int()),
    /** On which of their orders. */
    order: lenient(z.string()),
  })
  .transform(present);
