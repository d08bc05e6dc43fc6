import type { ListedOrder } from './words';
import { STATES } from './words';
import { Badge } from '../ui/kit';

interface Props {
  order: { state: ListedOrder['state']; cancelled: boolean; overdue?: boolean };
}

/** How an order stands, in a word or two. */
export function OrderState({ order }: Props) {
  const { words, tone } = order.cancelled
    ? { words: 'cancelled', tone: 'soft' as const }
    : order.overdue === true
      ? { words: 'overdue', tone: 'bad' as const }
      : STATES[order.state];
  return <Badge tone={tone}>{words}</Badge>;
}
