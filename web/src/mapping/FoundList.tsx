import type { Schemas } from '../api/client';
import { Button, Facts } from '../ui/kit';

interface Props {
  found: Schemas['ShownFinding'][];
  /** None = nothing can be put right from here. */
  onFix?: (finding: Schemas['ShownFinding']) => void;
}

/** What is so and what to do, for a margin. */
export function FoundList({ found, onFix }: Props) {
  return (
    <Facts>
      {found.map((one) => (
        <li key={one.kind + one.subject}>
          <strong>{one.title}</strong>
          <span>
            {one.text} {one.advice}
          </span>
          {onFix !== undefined && one.fix.length > 0 && (
            <Button small className="justify-self-start" onClick={() => onFix(one)}>
              Put it right in the draft
            </Button>
          )}
        </li>
      ))}
    </Facts>
  );
}
