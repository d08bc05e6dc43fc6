import type { Schemas } from '../api/client';

export type OrderShown = Schemas['OrderShown'];
export type ListedOrder = Schemas['ListedOrder'];

export const STATES: Record<ListedOrder['state'], { words: string; tone: 'good' | 'warn' | 'bad' | 'soft' }> =
  {
    FREE: { words: 'free of charge', tone: 'soft' },
    UNPAID: { words: 'not paid', tone: 'warn' },
    PARTLY_PAID: { words: 'paid in part', tone: 'warn' },
    PAID: { words: 'paid', tone: 'good' },
    PARTLY_REFUNDED: { words: 'refunded in part', tone: 'soft' },
    REFUNDED: { words: 'refunded', tone: 'soft' },
    DROPPED: { words: 'dropped', tone: 'soft' },
  };

export const TO_DO: Record<ListedOrder['toDo'][number], string> = {
  PAYMENT: 'to be paid',
  FULFIL: 'to fulfil',
  CLAIM: 'to be taken up',
};

export const SHOWN = ['ALL', 'PAYMENT', 'OVERDUE', 'FULFIL', 'CLAIM'] as const;

export const SHOWN_WORDS: Record<(typeof SHOWN)[number], string> = {
  ALL: 'All',
  PAYMENT: 'To be paid',
  OVERDUE: 'Overdue',
  FULFIL: 'To fulfil',
  CLAIM: 'To be taken up',
};

export const CHANNELS: Record<ListedOrder['channel'], string> = { SHOP: 'shop', HAND: 'by hand' };
