import type { ReactNode } from 'react';

/** What is seen before one is in: the night on the left, the form on the right. */
export function Door({
  says,
  school,
  title,
  children,
}: {
  says: string;
  school?: string;
  title: string;
  children: ReactNode;
}) {
  return (
    <main className="door">
      <div className="door-night">
        <p className="wordmark">
          yoru<span>.</span>
        </p>
        <p className="door-says">{says}</p>
        {school !== undefined && <p className="door-school">{school}</p>}
      </div>
      <div className="door-form">
        <h1>{title}</h1>
        {children}
      </div>
    </main>
  );
}
