import type { Schemas } from '../api/client';
import { Check, Checkbox, FieldFrame, Select } from '../ui/kit';
import { realThings, type Draft } from './draft';
import { idIn } from './paths';
import { without } from './things';

/** What of before a publish its follow-ups serve; nothing unless it is chosen. */
export interface Past {
  counts: boolean;
  /** By follow-up; those that are not there serve from the publish on. */
  from: Record<string, 'quiet' | 'letters'>;
}

export const NOTHING_PAST: Past = { counts: false, from: {} };

interface Drafted {
  title?: string;
  on?: boolean;
}

/** The follow-ups that a draft makes or changes, and that are on. */
export function followupsDrafted(draft: Draft): { id: string; title: string }[] {
  return realThings(draft).flatMap(([path, { to }]) => {
    const followup = to as Drafted | null;
    if (!path.startsWith('followup/') || followup === null || followup.on === false) return [];
    const id = idIn(path);
    return [{ id, title: followup.title ?? id }];
  });
}

/** As the server takes it; none where nothing of before is served. */
export function asPast(past: Past, draft: Draft): Schemas['PastServed'] | undefined {
  const followups = followupsDrafted(draft).flatMap(({ id }) => {
    const choice = past.from[id];
    return choice === undefined ? [] : [{ followup: id, letters: choice === 'letters' }];
  });
  return followups.length === 0 && !past.counts ? undefined : { counts: past.counts, followups };
}

interface Props {
  draft: Draft;
  past: Past;
  /** Whether the draft opens or ends anything by itself. */
  moves: boolean;
  onChange: (past: Past) => void;
}

/** Asks for each follow-up whether it serves what was before it as well. */
export function PastChoices({ draft, past, moves, onChange }: Props) {
  const drafted = followupsDrafted(draft);
  const set = (id: string, choice: string) => {
    const others = without(past.from, id);
    onChange({
      ...past,
      from: choice === 'quiet' || choice === 'letters' ? { ...others, [id]: choice } : others,
    });
  };
  return (
    <>
      {drafted.map(({ id, title }) => (
        <FieldFrame key={id} label={`“${title}” serves`}>
          {(tied) => (
            <Select
              className="w-full"
              value={past.from[id] ?? ''}
              onChange={(event) => set(id, event.target.value)}
              {...tied}
            >
              <option value="">what happens from now on</option>
              <option value="quiet">what was before as well, without letters</option>
              <option value="letters">what was before as well, with letters</option>
            </Select>
          )}
        </FieldFrame>
      ))}
      {moves && (
        <Check>
          <Checkbox
            checked={past.counts}
            onChange={(event) => onChange({ ...past, counts: event.target.checked })}
          />
          follow up what this publish opens or ends by itself
        </Check>
      )}
    </>
  );
}
