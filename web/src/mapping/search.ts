import * as z from 'zod';
import { lenient, present } from '../ui/searchShape';

export const MAPPING_SEARCH = z
  .object({
    view: lenient(z.enum(['by-source', 'by-target', 'catalogue', 'findings', 'history'])),
    product: lenient(z.string()),
    course: lenient(z.string()),
    /** Which thing of the catalogue, as a path; `school` for the rules of the school. */
    thing: lenient(z.string()),
  })
  .transform(present);
