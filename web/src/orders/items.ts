import type { Schemas } from '../api/client';

/** A line as it is typed. */
export interface Item {
  at: number;
  product: Schemas['OfferedProduct'];
  option: string;
  quantity: string;
  price: string;
  off: string;
}

/** What was typed as an amount: with a point or a comma; nothing typed is nothing, and what is no amount is NaN. */
export function amount(text: string): number {
  const plain = text.trim().replace(',', '.');
  return plain === '' ? 0 : /^\d+(\.\d+)?$/.test(plain) ? Number(plain) : NaN;
}

/** What the lines come to, in whole cents so that nothing is lost on the way; what cannot be read counts as nothing. */
export function total(items: Item[]): number {
  const cents = items
    .map((item) => amount(item.price) * 100 * Number(item.quantity) - amount(item.off) * 100)
    .reduce((sum, line) => sum + (Number.isFinite(line) ? Math.round(line) : 0), 0);
  return cents / 100;
}

/** A line as the server takes it; what is no amount goes as one that is refused. */
export function itemSheet(item: Item, giftTo: string, giftOn = ''): Schemas['ItemSheet'] {
  const price = amount(item.price);
  const off = amount(item.off);
  return {
    product: item.product.id,
    ...(item.option !== '' && { option: item.option }),
    quantity: Number.isInteger(Number(item.quantity)) ? Number(item.quantity) : 0,
    price: Number.isNaN(price) ? -1 : price,
    off: Number.isNaN(off) ? -1 : off,
    ...(giftTo.trim() !== '' && { giftTo: giftTo.trim() }),
    ...(giftTo.trim() !== '' && giftOn !== '' && { giftOn }),
  };
}
