import type { ListedOrder } from './words';
import { STATES } from './words';

interface Props {
  order: { state: ListedOrder['state']; cancelled: boolean; overdue?: boolean };
}

/** How an order stands, in a word or two. */
export function OrderState({ order }: Props) {
  const { words, tone } = order.cancelled
    ? { words: 'cancelled', tone: 'soft' }
    : order.overdue === true
      ? { words: 'overdue', tone: 'bad' }
      : STATES[order.state];
  return <span className={`pill pill-${tone}`}>{words}</span>;
}
