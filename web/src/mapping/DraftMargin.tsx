import { useState, type ReactNode } from 'react';
import type { Schemas } from '../api/client';
import { Consequence } from './Consequence';
import { cellKey, contested, isEmpty, type Published, type ThingEdit } from './draft';
import { Published as PublishedNow } from './Published';
import type { Grid } from './shown';
import { DraftElsewhere, OthersDrafts } from './DraftsOfOthers';
import { StaleDraft } from './StaleDraft';
import { followupsIn, lookup, type Things } from './things';
import type { OwnDraft } from './useDraft';
import { Margin } from '../ui/kit';

/** What every view of the mapping has: what is in force, and the draft. */
export interface Shared extends OwnDraft {
  grid: Grid;
  things: Things;
  now: Published;
  readAgain: () => Promise<void>;
  headline: ReactNode;
}

/** Puts changes of things into the draft, each with how it stands in the rulebook in force. */
export type SetThings = (changes: ThingEdit[]) => void;

interface Props extends Omit<Shared, 'headline'> {
  /** What to say where nothing is changed. */
  nothing?: string;
  /** What stands above the consequence. */
  children?: ReactNode;
  onPublished?: () => void;
}

/** The margin: what follows from the draft. */
export function DraftMargin(props: Props) {
  const { grid, things, now, draft, change, readAgain, children, onPublished } = props;
  const { version } = grid;
  const [done, setDone] = useState<Schemas['Publish']>();
  const stale = !isEmpty(draft) && draft.base !== version;
  const known = lookup(things);
  return (
    <Margin label="What follows">
      <DraftElsewhere {...props} />
      {stale && (
        <StaleDraft
          version={version}
          draft={draft}
          now={now}
          contested={contested(draft, now, known)}
          grid={grid}
          onCarryOver={(without) =>
            change({ act: 'carry-over', published: now, things: known, version, without })
          }
          onDiscard={() => change({ act: 'discard' })}
        />
      )}
      {children}
      {done !== undefined && isEmpty(draft) && <PublishedNow publish={done} />}
      <Consequence
        draft={draft}
        grid={grid}
        stale={stale}
        {...(props.nothing !== undefined && { nothing: props.nothing })}
        hasFollowups={followupsIn(things, draft).length > 0}
        onTake={(cells) =>
          change({
            act: 'set',
            cells: cells.map((cell) => [cellKey(cell.source, cell.target), cell.terms ?? null]),
            published: now,
            version,
          })
        }
        onDiscard={() => change({ act: 'discard' })}
        onPublished={async (publish) => {
          setDone(publish);
          change({ act: 'discard' });
          onPublished?.();
          await readAgain();
        }}
        onRefused={readAgain}
      />
      <OthersDrafts others={props.others} />
    </Margin>
  );
}
