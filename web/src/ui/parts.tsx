import type { ReactNode } from 'react';
import { problemOf } from '../api/client';

/** The right-hand side of a screen: what follows from what is on the left. */
export function Margin({ label, children }: { label: string; children: ReactNode }) {
  return (
    <aside className="margin" aria-label={label}>
      {children}
    </aside>
  );
}

/** The main part of a screen and its margin. */
export function Screen({ children, margin }: { children: ReactNode; margin?: ReactNode }) {
  return (
    <div className={margin === undefined ? 'screen' : 'screen screen-with-margin'}>
      <main className="main">{children}</main>
      {margin}
    </div>
  );
}

export function Fault({ error }: { error: unknown }) {
  const problem = problemOf(error);
  return (
    <div role="alert" className="fault">
      <strong>{problem.title}</strong>
      <span>{problem.detail}</span>
    </div>
  );
}

export function Waiting({ what }: { what: string }) {
  return (
    <p role="status" className="waiting">
      Reading {what} …
    </p>
  );
}

export function Empty({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <div className="empty">
      <strong>{title}</strong>
      {children}
    </div>
  );
}
