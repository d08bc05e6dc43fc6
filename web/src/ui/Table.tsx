import { box } from './box';

/** Wider than its place, a table goes sideways by itself and leaves the page where it is. */
export const Sheet = box('div', 'overflow-x-auto rounded-box border border-line bg-base-100');

export const Table = box(
  'table',
  'table text-[0.97rem] [&_tbody_tr]:hover:bg-lamp/8 [&_td]:px-3.5 [&_td]:py-1.5 [&_th]:px-3.5 [&_th]:py-2 [&_th]:font-semibold [&_th]:text-soft [&_tr]:border-line',
);
