import type { Schemas } from '../api/client';
import { useSession } from '../session/session';
import { shownTime } from '../ui/dates';
import { counted } from '../ui/words';
import { size } from './draft';
import type { OwnDraft } from './useDraft';
import { Acts, Alarm, Button, Facts } from '../ui/kit';

/** Asks which of two it is to be, where the same operator changed the draft on two machines. */
export function DraftElsewhere({ draft, elsewhere, decide }: OwnDraft) {
  if (elsewhere === undefined) return null;
  const places = (many: number) => counted(many, 'place', 'places');
  return (
    <Alarm role="alert" className="gap-2">
      <strong>Your draft was changed on another machine too</strong>
      <span>
        Here it changes {places(size(draft))}, there {places(size(elsewhere))}. The one you do not take is
        lost.
      </span>
      <Acts>
        <Button small onClick={() => decide('here')}>
          Keep this one
        </Button>
        <Button small onClick={() => decide('elsewhere')}>
          Take the other
        </Button>
      </Acts>
    </Alarm>
  );
}

/** What others have changed and not published. */
export function OthersDrafts({ others }: { others: Schemas['OthersDraft'][] }) {
  const { zone } = useSession();
  if (others.length === 0) return null;
  return (
    <section>
      <h2>Others are changing it too</h2>
      <Facts>
        {others.map(({ name, at, places, many }) => (
          <li key={name}>
            <strong>
              {name}: {counted(many, 'change', 'changes')} not published
            </strong>
            <span className="text-soft">
              {places.join(', ')}
              {many > places.length && ` and ${many - places.length} more`} · {shownTime(at, zone)}
            </span>
          </li>
        ))}
      </Facts>
    </section>
  );
}
