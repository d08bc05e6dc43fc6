import { box } from './box';

/** Several views of the same, of which one is shown. */
export const Views = box(
  'nav',
  'join max-w-full flex-none flex-wrap overflow-hidden rounded-field border border-base-content/20 bg-base-100 *:cursor-pointer *:px-2.5 *:py-1 *:font-medium *:no-underline *:focus-visible:-outline-offset-3 *:focus-visible:outline-lamp *:aria-[current=page]:bg-neutral *:aria-[current=page]:text-neutral-content *:aria-pressed:bg-neutral *:aria-pressed:text-neutral-content',
);
