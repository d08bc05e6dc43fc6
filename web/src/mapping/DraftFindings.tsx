import { keepPreviousData } from '@tanstack/react-query';
import { api, type Schemas } from '../api/client';
import { useSettled } from '../ui/settled';
import { counted } from '../ui/words';
import { asDraft, type Draft } from './draft';
import { useFix } from './Findings';

const SETTLED_MS = 300;

/** What a look at the mapping would find once the draft is published, before it is. */
export function DraftFindings({ draft }: { draft: Draft }) {
  const fix = useFix();
  const [wanted] = useSettled(asDraft(draft), SETTLED_MS);
  const { data } = api.useQuery(
    'post',
    '/api/findings/draft',
    { body: wanted },
    { placeholderData: keepPreviousData, retry: false },
  );
  if (data === undefined) return null; // what is wrong with the draft itself is said with its figures
  const { brought, standing, mended } = data;
  const grave = [...brought, ...standing].some((one) => one.severity === 'GRAVE');
  return (
    <>
      {brought.length + standing.length > 0 && (
        <section
          className={grave ? 'found-here found-grave' : 'found-here'}
          aria-label="Found in this draft"
          aria-live="polite"
        >
          <Found title="This draft brings" found={brought} onFix={fix} />
          <Found title="It does not mend" found={standing} onFix={fix} />
        </section>
      )}
      {mended > 0 && <p className="soft py-2">It mends {counted(mended, 'finding', 'findings')}.</p>}
    </>
  );
}

interface Props {
  title: string;
  found: Schemas['ShownFinding'][];
  onFix: (finding: Schemas['ShownFinding']) => void;
}

function Found({ title, found, onFix }: Props) {
  if (found.length === 0) return null;
  return (
    <>
      <h2>{title}</h2>
      <ul className="facts">
        {found.map((one) => (
          <li key={one.kind + one.subject}>
            <strong>{one.title}</strong>
            <span>
              {one.text} {one.advice}
            </span>
            {one.fix.length > 0 && (
              <button className="btn btn-sm justify-self-start" onClick={() => onFix(one)}>
                Put it right in the draft
              </button>
            )}
          </li>
        ))}
      </ul>
    </>
  );
}
