/** How far something is that takes a while. */
export function Progress({ label, done, of }: { label: string; done: number; of: number }) {
  return (
    <progress
      className="progress h-2 min-w-16 flex-1 border border-line bg-figure text-primary"
      aria-label={label}
      max={of}
      value={done}
    />
  );
}
