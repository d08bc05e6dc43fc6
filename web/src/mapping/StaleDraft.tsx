import { useState } from 'react';
import { api } from '../api/client';
import { counted } from '../ui/words';
import { cellOf, type CellKey, type Draft, type Published } from './draft';
import { nameOfPlace, type Grid } from './shown';
import { inWords, type Terms } from './terms';
import { Acts, Alarm, Button, Check, Radio } from '../ui/kit';

interface Props {
  version: number;
  draft: Draft;
  now: Published;
  contested: string[];
  grid: Grid;
  /** @param without what the other has settled */
  onCarryOver: (without: string[]) => void;
  onDiscard: () => void;
}

/** Somebody else has published since the draft was begun: what, and what is to become of each cell of both. */
export function StaleDraft({ version, draft, now, contested, grid, onCarryOver, onDiscard }: Props) {
  const [theirs, setTheirs] = useState<ReadonlySet<string>>(new Set());
  const choose = (key: string, other: boolean) =>
    setTheirs(new Set(other ? [...theirs, key] : [...theirs].filter((one) => one !== key)));
  return (
    <Alarm role="alert" className="gap-2 [&_ul]:list-disc [&_ul]:pl-4">
      <strong>Somebody else has published rulebook {version}</strong>
      <span>
        Your draft is kept, and nothing of it was published. The grid now shows what is in force, with your
        changes on top.
      </span>
      <Others since={draft.base} />
      {contested.length > 0 && (
        <>
          <span>{counted(contested.length, 'place was', 'places were')} changed by both of you:</span>
          <ul className="grid list-none gap-2">
            {contested.map((key) => (
              <li key={key}>
                <Both
                  name={nameOfPlace(key, draft, grid)}
                  mine={wordsOf(key, draft, grid)}
                  theirs={key.startsWith('[') ? said(now.get(key) ?? null, key, grid) : 'as it is in force'}
                  isTheirs={theirs.has(key)}
                  onChoose={(other) => choose(key, other)}
                />
              </li>
            ))}
          </ul>
        </>
      )}
      <Acts>
        <Button small onClick={() => onCarryOver([...theirs])}>
          {contested.length > 0 ? 'Go on with these' : 'Go on with my draft'}
        </Button>
        <Button small onClick={onDiscard}>
          Discard mine
        </Button>
      </Acts>
    </Alarm>
  );
}

/** What was published in between, in words. */
function Others({ since }: { since: number }) {
  const history = api.useQuery('get', '/api/mapping/history');
  const between = (history.data ?? []).filter((publish) => publish.number > since);
  return (
    between.length > 0 && (
      <details open>
        <summary>What {between.map((publish) => publish.by).join(', ')} changed</summary>
        <ul>
          {between.flatMap((publish) =>
            publish.difference.map((line) => <li key={`${publish.number}-${line}`}>{line}</li>),
          )}
        </ul>
      </details>
    )
  );
}

interface BothProps {
  name: string;
  mine: string;
  theirs: string;
  isTheirs: boolean;
  onChoose: (theirs: boolean) => void;
}

function Both({ name, mine, theirs, isTheirs, onChoose }: BothProps) {
  return (
    <fieldset>
      <legend>{name}</legend>
      <Check>
        <Radio checked={!isTheirs} onChange={() => onChoose(false)} />
        mine: {mine}
      </Check>
      <Check>
        <Radio checked={isTheirs} onChange={() => onChoose(true)} />
        theirs: {theirs}
      </Check>
    </fieldset>
  );
}

function wordsOf(key: string, draft: Draft, grid: Grid): string {
  const cell = draft.changes[key];
  if (cell !== undefined) return said(cell.to, key, grid);
  return draft.things[key]?.to === null ? 'not there' : 'as in my draft';
}

function said(terms: Terms | null, key: CellKey, grid: Grid): string {
  const opener = grid.sources.find((row) => row.source === cellOf(key)[0]);
  return terms === null ? 'does not open' : inWords(terms, opener);
}
