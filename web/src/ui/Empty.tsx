import type { ReactNode } from 'react';

/** Where there is nothing: what would be here, and what to do about it. */
export function Empty({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <div
      className="flex max-w-xl flex-col items-start gap-2 rounded-box border border-dashed border-base-content/30 p-6 wrap-anywhere [&>p]:text-soft"
      data-part="empty"
    >
      <strong>{title}</strong>
      {children}
    </div>
  );
}
