import type { ReactNode } from 'react';
import type { Schemas } from '../api/client';
import { say } from '../ui/said';
import { useAct, type Sheet } from './useAct';
import { WhatFollows } from './WhatFollows';
import { ActForm, Acts, Button, ConfirmButton, Fault, FaultsAtFields } from '../ui/kit';

interface Props {
  title: string;
  /** None = it is not filled in yet. */
  sheet: Sheet | undefined;
  confirm: string;
  onDone: (done: Schemas['Done']) => void;
  onCancel: () => void;
  children?: ReactNode;
}

const NONE: Schemas['Refusal'][] = [];

/** One act in the margin: its form, what would follow, and the button that does it. */
export function ActPanel({ title, sheet, confirm, onDone, onCancel, children }: Props) {
  const act = useAct(sheet, (done) => {
    say(`${title}: done.`);
    onDone(done);
  });
  const refusals = act.consequence?.refusals ?? NONE;
  return (
    <ActForm
      className="grid content-start gap-2.5"
      aria-label={title}
      onConfirm={() => {
        if (act.current && refusals.length === 0) act.act();
      }}
    >
      <h2>{title}</h2>
      <FaultsAtFields
        problems={refusals}
        rest={(others) => (
          <>
            <h3>What will happen</h3>
            {sheet === undefined && <p className="text-soft">Fill this in, and it is said here.</p>}
            {others.map((refusal) => (
              <p key={refusal.problem} className="text-warning" role="status">
                {refusal.problem}
              </p>
            ))}
          </>
        )}
      >
        {children}
      </FaultsAtFields>
      {act.consequence !== undefined && refusals.length === 0 && (
        <WhatFollows consequence={act.consequence} />
      )}
      {act.fault !== null && <Fault error={act.fault} />}
      <Acts>
        <ConfirmButton disabled={!act.current || act.busy || refusals.length > 0 || sheet === undefined}>
          {act.busy ? 'Doing it …' : confirm}
        </ConfirmButton>
        <Button type="button" onClick={onCancel}>
          Leave it
        </Button>
      </Acts>
    </ActForm>
  );
}
