import { Link } from '@tanstack/react-router';
import type { Schemas } from '../api/client';
import { FoundList } from './FoundList';

interface Props {
  findings: ReadonlyMap<string, Schemas['ShownFinding'][]>;
  /** The row and column in which the focus is. */
  subjects: (string | undefined)[];
}

/** What was found at the things that are selected. */
export function FoundHere({ findings, subjects }: Props) {
  const here = subjects.flatMap((subject) => findings.get(subject ?? '') ?? []);
  return (
    here.length > 0 && (
      <section
        className={`border-l-[3px] pl-3 ${here.some((one) => one.severity === 'GRAVE') ? 'border-error' : 'border-lamp'}`}
      >
        <h2>Found here</h2>
        <FoundList found={here} />
        <Link to="/mapping" search={{ view: 'findings' }}>
          All findings
        </Link>
      </section>
    )
  );
}
