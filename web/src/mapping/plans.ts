import type { Schemas } from '../api/client';
import { periodInWords } from '../ui/periods';
import { counted } from '../ui/words';
import type { Billing } from './things';

type Plan = Schemas['Plan'];

/** As the mapping says what a shop says. */
export function billingOf({ count, every, grace, cycles }: Plan): Billing {
  const waits = grace === undefined ? {} : { grace };
  return count === undefined
    ? { kind: 'recurring', every, ...waits, ...(cycles === undefined ? {} : { cycles }) }
    : { kind: 'instalments', count, every, ...waits };
}

/** Whether the mapping and the shop agree; how long an unpaid one is waited for is the school's own affair. */
export function isPaidAs(billing: Billing, plan: Plan): boolean {
  const said = billingOf(plan);
  return (
    billing.kind === said.kind &&
    billing.every === said.every &&
    billing.count === said.count &&
    billing.cycles === said.cycles
  );
}

export function planInWords({ count, every, trial, cycles }: Plan): string {
  if (count !== undefined) return `in ${counted(count, 'part', 'parts')}, one every ${each(every)}`;
  const first = trial === undefined ? '' : `, the first ${periodInWords(trial)} free`;
  const last = cycles === undefined ? '' : `, ${counted(cycles, 'time', 'times')}`;
  return `every ${each(every)}${last}${first}`;
}

/** "month" of "every month", "2 months" of "every 2 months". */
function each(period: string): string {
  return periodInWords(period).replace(/^1 (\S+)$/, '$1');
}
