import { box } from './box';

/** A list of things, a row each, of which something can be done. */
export const Rows = box('ul', 'divide-y divide-line rounded-box border border-line bg-base-100');

export const Row = box('li', 'flex min-h-13 flex-wrap items-center gap-x-3.5 gap-y-2 px-3.5 py-2');

/** What a row is about: its name, and below it what is to be known. */
export const RowWords = box('div', 'flex min-w-52 flex-1 flex-col [&>span]:text-soft');

export const RowActs = box('div', 'flex flex-wrap justify-end gap-2');
