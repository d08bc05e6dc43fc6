import * as z from 'zod';
import { lenient, present } from '../ui/searchShape';

export const TRIALS = ['PRODUCT', 'LEVEL', 'COURSE'] as const;

export const REHEARSE_SEARCH = z
  .object({
    /** Which story, by its id; none = the list of them. */
    which: lenient(z.string()),
    /** At which of its steps one looks, from 0 on. */
    step: lenient(z.number().int().min(0)),
    /** A story to begin with: of what somebody new gets, and its id. */
    tries: lenient(z.enum(TRIALS)),
    of: lenient(z.string()),
    /** Or of what happened to somebody, by their key. */
    person: lenient(z.string()),
  })
  .transform(present);
