import { z } from 'zod';
import type { Schemas } from '../api/client';
import { sumOf, typedMoney } from '../ui/money';

/** A line as it is typed. */
export interface Item {
  at: number;
  product: Schemas['OfferedProduct'];
  option: string;
  quantity: string;
  price: string;
  off: string;
}

/** One of a product at its price, below the lines that are there. */
export function newItem(product: Item['product'], items: Item[], currency: string): Item {
  return {
    at: Math.max(0, ...items.map((item) => item.at)) + 1,
    product,
    option: '',
    quantity: '1',
    price: product.price === undefined ? '' : typedMoney(product.price, currency),
    off: '',
  };
}

/** Another option, at its price, unless somebody has typed another one. */
export function optionOf(item: Item, option: string, currency: string): Partial<Item> {
  const priceOf = (id: string) => {
    const price = item.product.options.find((one) => one.id === id)?.price ?? item.product.price;
    return price === undefined ? '' : typedMoney(price, currency);
  };
  return { option, ...(item.price === priceOf(item.option) && { price: priceOf(option) }) };
}

const PLAIN = /^\d+([.,]\d+)?$/;
const PARTED_BY_COMMAS = /^\d{1,3}(,\d{3})+(\.\d+)?$/;
const PARTED_BY_POINTS = /^\d{1,3}(\.\d{3})+(,\d+)?$/;
/** "1.180" is a thousand to one and a little more than one to another. */
const TWOFOLD = /^[1-9]\d{0,2}[.,]\d{3}$/;

/**
 * What was typed as an amount, as people write it: "10", "10,50", "1.180,50", "1,180.50", "1 180.50". Nothing typed is
 * nothing; NaN = what is no amount, or can be read in two ways.
 */
export function amount(text: string): number {
  const plain = text.trim().replace(/(?<=\d)['’\s](?=\d{3}(\D|$))/g, '');
  if (plain === '') return 0;
  if (TWOFOLD.test(plain)) return NaN;
  if (PLAIN.test(plain)) return Number(plain.replace(',', '.'));
  if (PARTED_BY_COMMAS.test(plain)) return Number(plain.replaceAll(',', ''));
  return PARTED_BY_POINTS.test(plain) ? Number(plain.replaceAll('.', '').replace(',', '.')) : NaN;
}

/** Why something typed is taken for no amount; nothing = it is one. */
export function amountFault(text: string): string | undefined {
  if (!Number.isNaN(amount(text))) return undefined;
  const plain = text.trim();
  const [whole, parts = ''] = plain.split(/[.,]/);
  return TWOFOLD.test(plain)
    ? `“${plain}” can be read in two ways: write ${whole}${parts} or ${whole}.${parts.slice(0, 2)}`
    : `“${plain}” is no amount: write it like 1180.50`;
}

/** What can be read as an amount; nothing typed can. */
export const AMOUNT = z.string().superRefine((text, context) => {
  const fault = amountFault(text);
  if (fault !== undefined) context.addIssue({ code: 'custom', message: `${fault}.` });
});

/** What the lines come to; what cannot be read counts as nothing. */
export function total(items: Item[], currency: string): number {
  return sumOf(
    items
      .map((item) => amount(item.price) * Number(item.quantity) - amount(item.off))
      .filter((line) => Number.isFinite(line)),
    currency,
  );
}

/** What about the lines is no amount; they are not sent so. */
export function faults(items: Item[]): string[] {
  return items
    .flatMap((item) => [amountFault(item.price), amountFault(item.off)])
    .filter((one) => one !== undefined);
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
