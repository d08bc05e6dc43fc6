import * as z from 'zod';
import { lenient, present } from '../ui/searchShape';

export const SYSTEM_VIEWS = ['queue', 'out-of-step', 'shown', 'matching', 'settings'] as const;

export const SYSTEM_SEARCH = z
  .object({
    view: lenient(z.enum(SYSTEM_VIEWS)),
    /** What alone is looked at, where it is out of step. */
    target: lenient(z.string()),
  })
  .transform(present);
