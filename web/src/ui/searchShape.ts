import * as z from 'zod';

/** What an address may carry is read leniently: what does not fit is left out, never refused. */
export function lenient<T extends z.ZodType>(shape: T) {
  return shape.optional().catch(undefined);
}

/** Words that are looked for. An address turns "2041" into a number; here it is words again. */
export const WORDS = z
  .union([z.string(), z.number().transform(String)])
  .optional()
  .catch(undefined)
  .transform((words) => (words === '' ? undefined : words));

export const PAGE = lenient(z.number().int().positive());

export const DAY = lenient(z.iso.date());

/** Only what is there: an address keeps no empty names. */
export function present<T extends object>(search: T): Partial<T> {
  const there = Object.entries(search).filter(([, value]) => value !== undefined);
  return Object.fromEntries(there) as Partial<T>;
}
