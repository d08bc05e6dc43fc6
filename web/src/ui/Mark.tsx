const LOOKS = {
  grave: 'rotate-45 rounded-[2px] bg-error',
  soon: 'rounded-full bg-lamp',
  later: 'rounded-full bg-[#b9b5a8]',
  well: 'rounded-full bg-success',
  off: 'rounded-full border-2 border-soft',
};

export type MarkKind = keyof typeof LOOKS;

/** How much a row presses; the words beside it say the same. */
export function Mark({ kind, className = '' }: { kind: MarkKind; className?: string }) {
  return <span className={`inline-block size-2.5 shrink-0 ${LOOKS[kind]} ${className}`} aria-hidden="true" />;
}
