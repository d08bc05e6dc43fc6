import { type ReactNode, type SyntheticEvent } from 'react';
import type { Schemas } from '../api/client';
import { Fault } from '../ui/parts';
import { useAct, type Sheet } from './useAct';
import { WhatFollows } from './WhatFollows';

interface Props {
  title: string;
  /** None = it is not filled in yet. */
  sheet: Sheet | undefined;
  confirm: string;
  onDone: (done: Schemas['Done']) => void;
  onCancel: () => void;
  children?: ReactNode;
}

/** One act in the margin: its form, what would follow, and the button that does it. */
export function ActPanel({ title, sheet, confirm, onDone, onCancel, children }: Props) {
  const act = useAct(sheet, onDone);
  const refusals = act.consequence?.refusals ?? [];
  const submit = (event: SyntheticEvent) => {
    event.preventDefault();
    if (act.current && refusals.length === 0) act.act();
  };
  return (
    <form className="act" aria-label={title} onSubmit={submit}>
      <h2>{title}</h2>
      {children}
      <h3>What will happen</h3>
      {sheet === undefined && <p className="soft">Fill this in, and it is said here.</p>}
      {refusals.map((refusal) => (
        <p key={refusal.problem} className="warn" role="status">
          {refusal.problem}
        </p>
      ))}
      {act.consequence !== undefined && refusals.length === 0 && (
        <WhatFollows consequence={act.consequence} />
      )}
      {act.fault !== null && <Fault error={act.fault} />}
      <div className="acts">
        <button
          type="submit"
          className="btn btn-primary"
          disabled={!act.current || act.busy || refusals.length > 0 || sheet === undefined}
        >
          {act.busy ? 'Doing it …' : confirm}
        </button>
        <button type="button" className="btn" onClick={onCancel}>
          Leave it
        </button>
      </div>
    </form>
  );
}
