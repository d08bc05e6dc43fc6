/** While something is read; what it is is said for those who do not see the bars. */
export function Waiting({ what }: { what: string }) {
  return (
    <div role="status" className="flex max-w-2xl flex-col gap-2.5 py-4 text-soft" data-part="waiting">
      <p>Reading {what} …</p>
      <div className="skeleton h-9 bg-base-300/60" aria-hidden="true" />
      <div className="skeleton h-9 w-5/6 bg-base-300/60" aria-hidden="true" />
      <div className="skeleton h-9 w-2/3 bg-base-300/60" aria-hidden="true" />
    </div>
  );
}
