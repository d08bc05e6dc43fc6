import { problemOf } from '../api/client';
import { box } from './box';

/** Something to know before going on. */
export const Notice = box(
  'div',
  'mb-3 flex flex-col gap-2 rounded-field bg-period px-3.5 py-2.5 leading-normal text-period-ink',
);

/** Something that went wrong: what happened, and what was not done. */
export const Alarm = box(
  'div',
  'mb-3 flex flex-col gap-1 rounded-r-field border-l-4 border-error bg-removed px-3.5 py-2.5 text-base-content',
);

export function Fault({ error }: { error: unknown }) {
  const problem = problemOf(error);
  return (
    <Alarm role="alert">
      <strong>{problem.title}</strong>
      <span>{problem.detail}</span>
    </Alarm>
  );
}
