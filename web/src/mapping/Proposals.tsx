import { useState } from 'react';
import { api, type Schemas } from '../api/client';
import { counted } from '../ui/words';
import { inWords } from './terms';
import { Button, Check, Checkbox, Facts, Fault } from '../ui/kit';

interface Props {
  onTake: (cells: Schemas['DraftCell'][]) => void;
}

/** Products that open nothing beside the courses of the same name; taken, they are a draft and no more. */
export function Proposals({ onTake }: Props) {
  const proposals = api.useQuery('get', '/api/mapping/proposals');
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  if (proposals.error !== null) return <Fault error={proposals.error} />;
  if (proposals.data === undefined || proposals.data.length === 0) return null;
  const chosen = proposals.data.filter((one) => !left.has(one.cell.source));
  return (
    <section>
      <h3>Perhaps by name</h3>
      <Facts>
        {proposals.data.map((one) => (
          <li key={one.cell.source}>
            <Check>
              <Checkbox
                checked={!left.has(one.cell.source)}
                onChange={(event) =>
                  setLeft(
                    event.target.checked
                      ? new Set([...left].filter((source) => source !== one.cell.source))
                      : new Set([...left, one.cell.source]),
                  )
                }
              />
              <strong>
                {one.source} → {one.target}
              </strong>
            </Check>
            <span>
              {one.cell.terms === undefined ? '' : inWords(one.cell.terms)} · {one.why} · {one.sure} % sure
            </span>
          </li>
        ))}
      </Facts>
      <Button small disabled={chosen.length === 0} onClick={() => onTake(chosen.map((one) => one.cell))}>
        Put {counted(chosen.length, 'proposal', 'proposals')} into the draft
      </Button>
    </section>
  );
}
