import * as z from 'zod';
import { DAY, lenient, PAGE, present, WORDS } from '../ui/searchShape';
import { SHOWN } from './words';

export const ORDERS_SEARCH = z
  .object({
    q: WORDS,
    show: lenient(z.enum(SHOWN)),
    sort: lenient(z.enum(['NEWEST', 'TOTAL', 'NAME', 'DUE'])),
    product: lenient(z.string()),
    channel: lenient(z.enum(['SHOP', 'HAND'])),
    from: DAY,
    to: DAY,
    page: PAGE,
  })
  .transform(present);

export type OrdersSearch = z.infer<typeof ORDERS_SEARCH>;

export const BY_HAND_SEARCH = z
  .object({ person: lenient(z.string()), product: lenient(z.string()) })
  .transform(present);
