import type { ReactNode } from 'react';
import { box } from './box';
import { GROUND, type Tone } from './tones';

/** How something stands, in a word or two. */
export function Badge({ tone, children }: { tone: Tone; children: ReactNode }) {
  return (
    <span
      data-part="badge"
      className={`badge border-0 px-2.5 text-[0.87rem] font-semibold whitespace-nowrap ${GROUND[tone]}`}
    >
      {children}
    </span>
  );
}

/** Something that a list is limited to, or that somebody has. */
export const Chip = box('span', 'badge border-line bg-base-100 px-3 py-3 text-[0.93rem] font-medium');
