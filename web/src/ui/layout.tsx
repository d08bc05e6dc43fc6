import type { ReactNode } from 'react';
import { box } from './box';

/** The main part of a screen and its margin: the thing on the left, its consequence on the right. */
export function Screen({ children, margin }: { children: ReactNode; margin?: ReactNode }) {
  return (
    <div
      className={`grid flex-1 grid-cols-[minmax(0,1fr)] ${
        margin === undefined
          ? ''
          : 'lg:grid-cols-[minmax(0,1fr)_21.75rem] 2xl:grid-cols-[minmax(0,1fr)_27rem]'
      }`}
    >
      <main className="min-w-0 px-3 pt-3.5 pb-8 sm:px-5">{children}</main>
      {margin}
    </div>
  );
}

/** What goes by itself must be reached by whoever has no mouse to move it with. */
const MOVED_BY_KEYS = { tabIndex: 0 };

/** The right-hand side of a screen: what follows from what is on the left. It goes by itself, so that the main part stays where it is. */
export function Margin({ label, children }: { label: string; children: ReactNode }) {
  return (
    <aside
      className="flex flex-col gap-6 border-t print:hidden border-line bg-base-100 px-4 pt-4 pb-8 sm:px-5 lg:sticky lg:top-(--band-height) lg:max-h-[calc(100dvh-var(--band-height))] lg:overflow-y-auto lg:border-t-0 lg:border-l"
      aria-label={label}
      {...MOVED_BY_KEYS}
    >
      {children}
    </aside>
  );
}

/** What a screen shows, in a line: its title, a few words, its views and acts. */
export const Headline = box(
  'div',
  'mb-3 flex min-h-9 flex-wrap items-center gap-x-3 gap-y-2 [&>p]:text-soft [&>[data-part=acts]:last-child]:ml-auto print:[&>[data-part=acts]]:hidden',
);

/** A box of things that belong together, often a form. */
export const Panel = box(
  'section',
  'mb-3 flex flex-col gap-3 rounded-box border border-line bg-base-100 p-4 [&>h2]:m-0',
);

/** Buttons beside each other. */
export const Acts = box('div', 'flex flex-wrap gap-2', 'acts');

/** Fields beside each other where there is room. */
export const Two = box('div', 'grid gap-3 sm:grid-cols-2');

/** Sections below each other, in two columns on a large display, so that no line is stretched over all of it. */
export const Sections = box(
  'div',
  '2xl:columns-2 2xl:gap-6 [&>section]:break-inside-avoid [&>section]:pt-5 [&>section>h2]:mt-0',
);

/** Short statements below each other, each of a few lines. */
export const Facts = box('ul', 'my-1.5 flex flex-col gap-2.5 [&>li]:flex [&>li]:flex-col');

/** What happened when: a moment, its name, and what is to be known of it. */
export const Events = box(
  'ol',
  'divide-y divide-line [&>li]:grid [&>li]:gap-x-3 [&>li]:py-2 md:[&>li]:grid-cols-[11.5rem_14rem_1fr] [&_time]:pt-0.5 [&_time]:font-code [&_time]:text-2xs [&_time]:text-soft',
);

/** What was said by a machine, letter by letter. */
export const Record = box(
  'pre',
  'max-h-72 overflow-auto rounded-field bg-figure px-2.5 py-2 font-code text-[0.7rem] leading-normal wrap-anywhere whitespace-pre-wrap',
);
