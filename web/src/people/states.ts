import type { Schemas } from '../api/client';

/** Whether one may be there now; also where a payment is due and still has time. */
export function isOpen(state: Schemas['ShownWindow']['state']): boolean {
  return state === 'OPEN' || state === 'GRACE';
}
