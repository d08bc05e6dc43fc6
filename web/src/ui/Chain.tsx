import type { ComponentProps } from 'react';
import { box } from './box';
import { DOT, type Tone } from './tones';

/** Steps that follow from each other, from the first to the last. */
export const Chain = box('ol', 'mt-3 ml-1.5 border-l-2 border-line');

export function Step({ tone, children, ...rest }: { tone: Tone } & Omit<ComponentProps<'li'>, 'className'>) {
  const shape = tone === 'bad' ? 'rounded-[3px]' : 'rounded-full';
  return (
    <li className="relative flex flex-col pb-3 pl-4 wrap-anywhere" {...rest}>
      <span
        className={`absolute top-1 -left-[7px] size-3 border-2 border-base-100 ${shape} ${DOT[tone]}`}
        aria-hidden="true"
      />
      {children}
    </li>
  );
}
