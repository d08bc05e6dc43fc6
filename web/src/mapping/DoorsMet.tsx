import { keepPreviousData } from '@tanstack/react-query';
import { api, type Schemas } from '../api/client';
import { MarkedWords } from '../ui/MarkedWords';
import { useSettled } from '../ui/settled';
import { asDraft, type Draft } from './draft';

const SETTLED_MS = 300;
const AT_A_GLANCE = 4;

const WHO: Record<Schemas['DoorChange']['side'], (title: string) => string> = {
  VISITOR: (title) => `Whoever opens ${title} without being signed in`,
  WITHOUT: (title) => `Whoever opens ${title} without access`,
  BOUGHT: (title) => `Whoever buys ${title}`,
};

/** What people will meet at doors and after buying that they do not meet now. */
export function DoorsMet({ draft }: { draft: Draft }) {
  const [wanted] = useSettled(asDraft(draft), SETTLED_MS);
  const { data } = api.useQuery(
    'post',
    '/api/mapping/doors',
    { body: wanted },
    { placeholderData: keepPreviousData, retry: false },
  );
  // what is wrong with the draft itself is said with its figures
  if (data === undefined || data.changes.length === 0) return null;
  const { changes } = data;
  return (
    <section aria-label="What people will meet" aria-live="polite" className="mb-3.5 grid gap-2">
      <h2>What people will meet</h2>
      <ul className="grid gap-2">{changes.slice(0, AT_A_GLANCE).map(row)}</ul>
      {changes.length > AT_A_GLANCE && (
        <details>
          <summary>and {changes.length - AT_A_GLANCE} more</summary>
          <ul className="grid gap-2">{changes.slice(AT_A_GLANCE).map(row)}</ul>
        </details>
      )}
    </section>
  );
}

function row({ place, side, title, before, now }: Schemas['DoorChange']) {
  return (
    <li key={`${place} ${side} ${title}`} className="flex flex-col border-l-[3px] border-lamp pl-3">
      <strong>{WHO[side](title)}</strong>
      <span className="break-words">
        will meet <MarkedWords>{now}</MarkedWords>
      </span>
      {before !== '' && (
        <span className="text-soft break-words">
          now: <MarkedWords>{before}</MarkedWords>
        </span>
      )}
    </li>
  );
}
