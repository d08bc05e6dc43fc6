import * as z from 'zod';
import { lenient, present } from '../ui/searchShape';

export const SEGMENTS_SEARCH = z.object({ segment: lenient(z.number()) }).transform(present);
