import type { ReactNode } from 'react';
import { ink, type Tone } from './tones';

/** A figure that counts, and what it counts. */
export function Stat({
  figure,
  words,
  tone,
  children,
}: {
  figure: ReactNode;
  words: ReactNode;
  tone?: Tone | undefined;
  children?: ReactNode;
}) {
  return (
    <div className="rounded-box border border-line bg-base-100 px-2.5 py-2 text-[0.9rem]">
      <strong className={`block font-head text-[1.45rem] leading-tight ${ink(tone)}`}>{figure}</strong>{' '}
      {words}
      {children}
    </div>
  );
}
